"""Loading a pack from the command line."""

import shutil
from io import StringIO
from pathlib import Path
from tempfile import TemporaryDirectory

from django.conf import settings
from django.core.management import call_command
from django.test import TestCase

from vendaval.bank.models import Family

COURSE = """\
key: small
title: Small
school: Escola do Molhe
subjects:
  - key: tides
    title: Tides
    topics:
      - {key: tidal-terms, title: Tidal terms}
"""


class LoadTests(TestCase):
    def load(self, root: Path) -> str:
        out = StringIO()
        call_command("load_pack", root, if_changed=True, stdout=out, stderr=StringIO())
        return out.getvalue()

    def test_a_pack_is_read_again_only_when_a_file_changed(self) -> None:
        with TemporaryDirectory() as folder:
            root = Path(folder)
            (root / "course.yaml").write_text(COURSE)
            source = settings.PACKS / "inshore" / "topics" / "tidal-terms"
            shutil.copytree(source, root / "topics" / "tidal-terms")
            self.assertIn("loaded", self.load(root).split(",")[-1])
            self.assertEqual(self.load(root), "The course is as it was loaded.\n")
            file = root / "topics" / "tidal-terms" / "range-of-tide.yaml"
            file.write_text(file.read_text().replace("seconds: 35", "seconds: 36"))
            self.assertIn("8 families loaded", self.load(root))
        self.assertEqual(Family.objects.get(key="range-of-tide").revisions.count(), 2)

"""A course from the command line: loaded, checked, refused, previewed."""

from pathlib import Path
from tempfile import TemporaryDirectory

from django.core.management import CommandError
from django.test import TestCase

from vendaval.bank.models import Course, Family
from vendaval.work.tests.builders import run_command
from vendaval_core.tests.courses import small_pack


class LoadTests(TestCase):
    root: Path

    def setUp(self) -> None:
        folder = TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.root = Path(folder.name)
        small_pack(self.root, whole=True)

    def test_a_pack_is_read_again_only_when_a_file_changed(self) -> None:
        first = run_command("load_pack", self.root, if_changed=True)
        self.assertIn("18 families loaded", first)
        again = run_command("load_pack", self.root, if_changed=True)
        self.assertEqual(again, "The course is as it was loaded.\n")
        file = self.root / "topics" / "tidal-terms" / "range-of-tide.yaml"
        file.write_text(file.read_text().replace("seconds: 35", "seconds: 36"))
        self.assertIn("18 families loaded", run_command("load_pack", self.root, if_changed=True))
        self.assertEqual(Family.objects.get(key="range-of-tide").revisions.count(), 2)
        self.assertEqual(Family.objects.get(key="tide-words").revisions.count(), 1)

    def test_a_check_reports_and_loads_nothing(self) -> None:
        told = run_command("load_pack", self.root, check=True)
        self.assertRegex(told, r"height-at-a-time +10 +9 +4 +2 2 3 2 1 ")
        self.assertIn("Small: 2 topics, 18 families checked", told)
        self.assertEqual(Course.objects.count(), 0)

    def test_a_faulty_course_is_refused_whole(self) -> None:
        terms = self.root / "topics" / "tidal-terms"
        family = terms / "tide-words.yaml"
        family.write_text(family.read_text().replace("difficulty: 1", "difficulty: 7"))
        (self.root / "topics" / "height-at-a-time" / "study.md").unlink()
        with self.assertRaises(CommandError) as caught:
            run_command("load_pack", self.root)
        told = str(caught.exception)
        self.assertIn("topics/tidal-terms/tide-words.yaml:2: difficulty", told)
        self.assertIn("topics/height-at-a-time:1: study.md: is missing", told)
        self.assertEqual((Course.objects.count(), Family.objects.count()), (0, 0))
        with self.assertRaisesMessage(CommandError, "was refused"):
            run_command("preview", "curve-fit", pack=self.root)
        with self.assertRaisesMessage(CommandError, "is not a folder"):
            run_command("load_pack", "nowhere")

    def test_a_preview_from_the_command_line(self) -> None:
        page = self.root / "page.html"
        told = run_command("preview", "curve-fit", count=3, out=page, pack=self.root)
        self.assertEqual(told.count("── version"), 3)
        self.assertIn("not 05:", told)
        self.assertIn("High water stands at the time of low water", page.read_text())
        with self.assertRaisesMessage(
            CommandError, "there is no family “curve”. curve-fit, curve-points"
        ):
            run_command("preview", "curve", pack=self.root)

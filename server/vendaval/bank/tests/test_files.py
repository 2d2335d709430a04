"""A course is the files of its pack: they come out as they went in, and what was changed in the
browser and in the pack is put together."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

from django.core.management import CommandError
from django.test import TestCase

from vendaval.bank.kept import current_files, file_row, kept_files
from vendaval.bank.loading import load_families
from vendaval.bank.models import Course, CourseFile, FamilyRevision, RevisionSource
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.work.tests.builders import run_command
from vendaval_core.packs.families import read_family
from vendaval_core.packs.topic_files import KeptFiles
from vendaval_core.tests.courses import small_pack

FAMILY = "topics/tidal-terms/range-of-tide.yaml"
PAGE = "topics/tidal-terms/study.md"
FIGURE = "topics/tidal-terms/figures/levels.svg"


class FilesTests(TestCase):
    def setUp(self) -> None:
        folder = TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.pack, self.out = Path(folder.name) / "pack", Path(folder.name) / "out"
        self.pack.mkdir()
        small_pack(self.pack)
        self.load()
        self.course = Course.objects.get(key="small")
        self.rui = User.objects.create(username="rui", display_name="Rui Sobral")

    def load(self, **options: bool) -> None:
        run_command("load_pack", self.pack, checked=True, **options)

    def exported(self) -> dict[str, bytes]:
        with TemporaryDirectory() as folder:
            run_command("export_pack", "small", Path(folder) / "out")
            return self.files(Path(folder) / "out")

    def files(self, root: Path) -> dict[str, bytes]:
        return {str(p.relative_to(root)): p.read_bytes() for p in root.rglob("*") if p.is_file()}

    def publish(self, old: str, new: str) -> None:
        text = (self.pack / FAMILY).read_text()
        read = read_family(
            text.replace(old, new), FAMILY, "range-of-tide", "tidal-terms", KeptFiles({})
        )
        assert read.read is not None, read.problems
        topic = self.course.topics.get(key="tidal-terms")
        wanted = {"range-of-tide": read.read}
        load_families(topic, wanted, clock.now(), by=self.rui, why="Clearer")

    def change(self, file: str, old: str, new: str) -> None:
        text = (self.pack / file).read_text()
        self.assertIn(old, text)
        (self.pack / file).write_text(text.replace(old, new))

    def test_a_pack_comes_out_byte_for_byte_as_it_went_in(self) -> None:
        self.assertEqual(self.exported(), self.files(self.pack))

    def test_loading_the_same_again_makes_nothing_new(self) -> None:
        files, revisions = len(kept_files(self.course)), FamilyRevision.objects.count()
        self.load()
        self.assertEqual(
            (len(kept_files(self.course)), FamilyRevision.objects.count()), (files, revisions)
        )

    def test_a_course_loaded_before_files_were_kept_takes_its_pack(self) -> None:
        RevisionSource.objects.all().delete()
        CourseFile.objects.all().delete()
        revisions = FamilyRevision.objects.count()
        self.load()
        self.assertEqual(FamilyRevision.objects.count(), revisions)
        self.assertEqual(self.exported(), self.files(self.pack))

    def test_what_was_changed_here_stays_when_the_pack_comes_again(self) -> None:
        self.publish("essential: true", "essential: false")
        self.change(PAGE, "## ", "## About ")
        self.load()
        found = self.exported()
        self.assertIn(b"essential: false", found[FAMILY])
        self.assertIn(b"## About ", found[PAGE])

    def test_what_both_changed_is_refused_unless_the_pack_is_taken(self) -> None:
        self.publish("essential: true", "essential: false")
        self.change(FAMILY, "difficulty: ", "difficulty: 1 # was ")
        with self.assertRaisesMessage(CommandError, f"{FAMILY}:1: (file): was changed here"):
            self.load()
        self.assertIn(b"essential: false", self.exported()[FAMILY])
        self.load(over=True)
        self.assertEqual(self.exported(), self.files(self.pack))

    def test_what_the_pack_took_over_from_here_is_the_packs_again(self) -> None:
        self.publish("essential: true", "essential: false")
        self.change(FAMILY, "essential: true", "essential: false")
        self.load()
        self.change(FAMILY, "seconds: ", "seconds: 1")
        self.load()
        self.assertEqual(self.exported(), self.files(self.pack))

    def test_a_figure_changed_here_and_a_file_that_is_no_text(self) -> None:
        row = file_row(self.course, FIGURE, b"\xff\xfe no text", clock.now(), by=self.rui)
        row.save()
        self.assertEqual(self.exported()[FIGURE], b"\xff\xfe no text")
        self.assertNotIn(FAMILY, current_files(self.course))

"""Load a course pack."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, NoReturn

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from tqdm import tqdm

from vendaval.bank.loading import load_pack
from vendaval.bank.merging import changed_here, put_together
from vendaval.bank.models import Course
from vendaval_core.errors import AlgebraNotReady
from vendaval_core.packs.located import PackInvalid, PackProblem, read_yaml
from vendaval_core.packs.nouns import nouns_proposed
from vendaval_core.packs.reader import Pack, pack_digest, read_pack
from vendaval_core.packs.survey import survey


def _advance(bar: tqdm[NoReturn]) -> None:
    bar.update()


class Command(BaseCommand):
    help = "Checks a course pack and loads it. If anything is wrong, nothing is loaded."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("folder", nargs="?", type=Path, default=settings.PACKS / "inshore")
        parser.add_argument(
            "--checked",
            action="store_true",
            help="skip checking its versions, because they were checked before",
        )
        parser.add_argument("--check", action="store_true", help="check only, load nothing")
        parser.add_argument(
            "--if-changed",
            action="store_true",
            help="do nothing if its files have not changed since they were loaded",
        )
        parser.add_argument(
            "--over",
            action="store_true",
            help="take the pack's files where they were changed here as well",
        )

    def handle(
        self,
        *,
        folder: Path,
        check: bool,
        checked: bool,
        if_changed: bool,
        over: bool,
        **options: Any,
    ) -> None:
        if not folder.is_dir():
            raise CommandError(f"{folder} is not a folder")
        files = pack_digest(folder)
        if if_changed and Course.objects.filter(files=files).exists():
            self.stdout.write("The course is as it was loaded.")
            return
        try:
            with TemporaryDirectory() as merged:
                source = folder if check else self._merged(folder, Path(merged), over=over)
                with tqdm(desc="Checking families", unit=" families", disable=None) as bar:
                    pack = read_pack(source, lambda key: _advance(bar), versions=not checked)
                if check:
                    self._report(pack)
                else:
                    course = load_pack(pack)
                    course.files = files
                    course.save(update_fields=["files"])
        except AlgebraNotReady as error:
            raise CommandError(f"{error} Nothing is wrong with {folder}.") from error
        except PackInvalid as error:
            raise CommandError(f"{folder} was refused:\n{error}") from error
        topics = sum(len(subject.topics) for subject in pack.course.subjects)
        done = "checked" if check else "loaded"
        self.stdout.write(
            f"{pack.course.title}: {topics} topics, {len(pack.families)} families {done}"
        )

    def _merged(self, folder: Path, into: Path, *, over: bool) -> Path:
        """The folder to load: the pack's own, or with what was changed here since."""
        read = read_yaml(folder / "course.yaml", "course.yaml")
        key = None if isinstance(read, PackProblem) else read.data.get("key")
        course = Course.objects.filter(key=key).first() if isinstance(key, str) else None
        if course is None or not changed_here(course):
            return folder
        problems = put_together(folder, course, into)
        if problems and not over:
            raise PackInvalid(problems)
        return into

    def _report(self, pack: Pack) -> None:
        self.stdout.write(
            f"{'topic':24}{'families':>9}{'generated':>11}{'essential':>11}"
            f"{'difficulty 1-5':>16}{'reading grade':>15}{'error at 10, 50, 95':>21}"
        )
        for topic in survey(pack):
            spread = " ".join(map(str, topic.difficulties))
            errors = " ".join(f"{error:.1f}" for error in topic.errors)
            self.stdout.write(
                f"{topic.key:24}{topic.families:9}{topic.generated:11}{topic.essential:11}"
                f"{spread:>16}{topic.grade:15.1f}{errors:>21}"
            )
        for item in pack.families:
            for one in nouns_proposed(item.family):
                self.stdout.write(
                    f"{one.family}, {one.part}: learners will write “{one.noun}” beside the number."
                    " Add it to its words, or as a unit."
                )

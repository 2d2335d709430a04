"""Write a course's questions as a package of QTI 3."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from tqdm import tqdm

from vendaval.bank.models import Course, Topic
from vendaval.exchange.qti_out import families_of, package_of


class Command(BaseCommand):
    help = "Writes the questions of a course, or of one topic, as a package of QTI 3."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("course", help="the course's key")
        parser.add_argument("file", type=Path, help="the archive to write")
        parser.add_argument("--topic", default="", help="of one topic alone")
        parser.add_argument("--versions", type=int, default=1, help="of each question, 1 to 50")

    def handle(self, *, course: str, file: Path, topic: str, versions: int, **options: Any) -> None:
        found = Course.objects.filter(key=course).first()
        if found is None:
            raise CommandError(f"there is no course “{course}”")
        one = Topic.objects.filter(course=found, key=topic).first() if topic else None
        if topic and one is None:
            raise CommandError(f"{course} has no topic “{topic}”")
        if file.exists():
            raise CommandError(f"{file} is there already")
        many = families_of(found, one).count()
        with tqdm(total=many, desc="Writing", unit=" questions", disable=None) as bar:

            def told(count: int) -> None:
                bar.update(count - bar.n)

            content, lost = package_of(found, one, max(1, min(versions, 50)), told)
        file.write_bytes(content)
        for _, title, what in lost:
            self.stdout.write(f"{title}: other programs don’t know {', '.join(what)}")
        self.stdout.write(f"{found.title}: {many} questions in {file}")

"""Write a learner's record as a file."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from vendaval.groups.models import Enrolment
from vendaval.people.queries import account_named
from vendaval.record.formats import Format, content_of


class Command(BaseCommand):
    help = "Writes a learner’s record in a course as csv, xlsx or xAPI statements."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("username")
        parser.add_argument("course")
        parser.add_argument("--kind", choices=["csv", "xlsx", "xapi"], default="csv")
        parser.add_argument("--out", type=Path, help="file to write; printed if left out")

    def handle(
        self, *, username: str, course: str, kind: Format, out: Path | None, **options: Any
    ) -> None:
        rows = Enrolment.objects.select_related("course", "person")
        found = rows.filter(person=account_named(username), course__key=course).first()
        if found is None:
            raise CommandError(f"{username} is not in the course {course}")
        if kind == "xlsx" and out is None:
            raise CommandError("a workbook needs --out FILE")
        content = content_of(kind, found)
        if out is not None:
            out.write_bytes(content)
            self.stdout.write(f"{len(content)} bytes written to {out}")
        else:
            text = content.decode("utf-8-sig").replace("\r\n", "\n")
            self.stdout.write(text, ending="")

"""Take a package of QTI, a spreadsheet's questions or one item into a course."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from vendaval.bank.models import Course, Topic
from vendaval.exchange import imports, qti_in
from vendaval.exchange.models import Import, ImportState
from vendaval.exchange.schemas import StoreImportIn
from vendaval.people.models import User
from vendaval.shared.errors import Conflict, NotFound, Unprocessable


class Command(BaseCommand):
    help = (
        "Looks through a package of QTI 3 or 2.x and says what each item becomes and what of it is "
        "not kept; with --take, takes what can be taken into the course."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("course", help="the course's key")
        parser.add_argument("file", type=Path, help="an archive, or one item")
        parser.add_argument("--by", required=True, help="whose import it is: their user name")
        parser.add_argument("--topic", default="", help="of items that name none of the course")
        parser.add_argument("--take", action="store_true", help="all that have no problem")
        parser.add_argument("--publish", action="store_true", help="not as drafts")
        parser.add_argument("--why", default="Taken in by command.")

    def handle(
        self,
        *,
        course: str,
        file: Path,
        by: str,
        topic: str,
        take: bool,
        publish: bool,
        why: str,
        **options: Any,
    ) -> None:
        found = Course.objects.filter(key=course).first()
        person = User.objects.filter(username=by).first()
        if found is None or person is None:
            raise CommandError(f"there is no course “{course}” or nobody called “{by}”")
        try:
            content = file.read_bytes()
            says = qti_in.listed(content, f"command-{person.pk}")
            if says["pack"]:
                raise CommandError(f"{file} is a pack: use load_pack")
            made = qti_in.begin_qti(found, file.name[:120], content, says, person)
            if topic:
                made.topic = Topic.objects.filter(course=found, key=topic).first()
                if made.topic is None:
                    raise CommandError(f"{course} has no topic “{topic}”")
                made.save(update_fields=["topic"])
            imports.look_through(made)
            self._say(made)
            if take:
                self._take(made, person, publish=publish, why=why)
        except OSError as error:
            raise CommandError(str(error)) from error
        except (Unprocessable, Conflict, NotFound) as error:
            raise CommandError(f"{error} {getattr(error, 'fields', '') or ''}".strip()) from error

    def _say(self, made: Import) -> None:
        for note in made.unread:
            self.stdout.write(f"not read: {note}")
        for row in made.rows.select_related("topic").order_by("line"):
            where = row.topic.key if row.topic else "no topic"
            seen = row.item.get("seen", "")
            self.stdout.write(
                f"{row.item['path']}: {row.cells.get('question', '')} ({where}, {seen})"
            )
            for _, what in row.problems:
                self.stdout.write(f"  {what}")
            for note in row.notes:
                self.stdout.write(f"  {note}")

    def _take(self, made: Import, person: User, *, publish: bool, why: str) -> None:
        made.refresh_from_db()
        imports.skip_wrong(made)
        imports.ask_to_store(made, StoreImportIn(publish=publish, why=why))
        made.refresh_from_db()
        imports.store(made, person)
        made.refresh_from_db()
        if made.state != ImportState.DONE:
            raise CommandError(made.why)
        self.stdout.write(f"{made.done} questions were taken into {made.course.title}.")

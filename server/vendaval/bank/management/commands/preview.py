"""Show versions of a family."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from vendaval.bank.preview import as_page, as_text, some_versions
from vendaval_core.packs.located import PackInvalid
from vendaval_core.packs.reader import read_pack


class Command(BaseCommand):
    help = "Shows versions of a family with answers, near misses and solution. Writes a page too."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("family", help="key of the family: its file’s name without .yaml")
        parser.add_argument("--pack", type=Path, default=settings.PACKS / "inshore")
        parser.add_argument("--count", type=int, default=10, help="versions to show")
        parser.add_argument(
            "--out", type=Path, help="where the page goes (var/preview/FAMILY.html)"
        )

    def handle(
        self, *, family: str, pack: Path, count: int, out: Path | None, **options: Any
    ) -> None:
        try:
            known = {
                item.family.key: item.family for item in read_pack(pack, versions=False).families
            }
        except PackInvalid as error:
            raise CommandError(f"{pack} was refused:\n{error}") from error
        if family not in known:
            near = [key for key in sorted(known) if family in key]
            raise CommandError(f"there is no family “{family}”. {', '.join(near)}".strip())
        versions = some_versions(known[family], count)
        page = out or settings.ROOT / "var" / "preview" / f"{family}.html"
        page.parent.mkdir(parents=True, exist_ok=True)
        page.write_text(as_page(known[family], versions), encoding="utf-8")
        self.stdout.write(as_text(known[family], versions))
        self.stdout.write(f"The page is {page}")

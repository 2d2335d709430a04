"""Sheets of paper of the demo, as photographs of them would be."""

from __future__ import annotations

import io

from PIL import Image, ImageDraw, ImageFont

WIDTH, HEIGHT, LINE = 840, 1188, 54
PAPER, RULE, PEN = "#f6f2e8", "#cfd9e4", "#1d2f57"
BRIEFING = (
    "Sheet 1",
    "",
    "Life jackets on before we cast off, and you",
    "keep them on. One hand for you, one for the",
    "boat. If somebody falls in: shout, point, and",
    "do not look away. The radio is below, on 16.",
)
LEGS = (
    "Sheet 2",
    "",
    "3.5 miles at 5 knots       42 minutes",
    "4.2 miles at 5 knots       50 minutes",
    "in all                     92 minutes",
)


def photograph(lines: tuple[str, ...]) -> bytes:
    """A ruled sheet with something written on it, JPEG."""
    sheet = Image.new("RGB", (WIDTH, HEIGHT), PAPER)
    pen = ImageDraw.Draw(sheet)
    for y in range(150, HEIGHT, LINE):
        pen.line((40, y, WIDTH - 40, y), fill=RULE, width=2)
    font = ImageFont.load_default(32)
    for n, line in enumerate(lines):
        pen.text((70, 110 + n * LINE), line, fill=PEN, font=font)
    out = io.BytesIO()
    sheet.save(out, "JPEG", quality=88)
    return out.getvalue()

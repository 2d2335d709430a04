"""How long a version takes, from its family and seed to the parts that are sent."""

from __future__ import annotations

import random

from django.conf import settings

from vendaval.shared.markdown import to_inline_html
from vendaval_core.items.presented import figure_out
from vendaval_core.items.versions import make_version
from vendaval_core.packs.reader import read_pack

from .timing import Figures, milliseconds, timed

BAR_MILLISECONDS = 2.0


def making_versions(count: int) -> Figures:
    """Random versions of the whole bank, each made and rendered once."""
    families = [
        item.family for item in read_pack(settings.PACKS / "inshore", versions=False).families
    ]
    draw = random.Random(1)
    spans: list[float] = []
    for _ in range(count):
        family = draw.choice(families)
        seed = draw.randint(1, family.versions)
        with timed(spans):
            version = make_version(family, seed, seed)
            figure_out(version.figure)
            for key in version.parts:
                key.presented(to_inline_html)
    return {"versions": count, "made": milliseconds(spans), "bar": BAR_MILLISECONDS}

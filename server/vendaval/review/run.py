"""What mending a miss is begun with, and what its run keeps."""

from __future__ import annotations

from typing import Literal

from vendaval.work.columns import RunNote
from vendaval.work.models import Purpose
from vendaval.work.schemas import StartIn


class MendNote(RunNote):
    """The miss that is being mended."""

    of: Literal["mend"] = "mend"
    miss: int


class StartMendIn(StartIn):
    purpose: Literal[Purpose.MISSED]
    miss: int

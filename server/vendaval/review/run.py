"""What mending a miss is begun with, and what its run keeps."""

from __future__ import annotations

from typing import Literal

from vendaval.work.columns import RunNote
from vendaval.work.models import Purpose
from vendaval.work.schemas import StartIn

MissOrder = Literal["topic", "sure", "newest"]


class MendNote(RunNote):
    """The miss that is being mended. order: of the list that it is the next of, where several are
    taken one after another."""

    of: Literal["mend"] = "mend"
    miss: int
    order: MissOrder | None = None


class StartMendIn(StartIn):
    """`order`: of the list, to go on with its next miss afterwards."""

    purpose: Literal[Purpose.MISSED]
    miss: int
    order: MissOrder | None = None

"""Presenting a version to a learner."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from vendaval_core.mastery.practice import next_seed

from .models import Miss, Presentation, Purpose, Run
from .state import Learning


def present(
    learning: Learning,
    run: Run,
    family_key: str,
    now: datetime,
    *,
    why: dict[str, Any] | None = None,
    root: Presentation | None = None,
    miss: Miss | None = None,
) -> Presentation:
    """Store the next presentation of a run: an unseen version of the family if there is one.

    The caller saves `learning` and `run`.
    """
    item = learning.bank.families[family_key]
    seen = learning.seen(family_key)
    used = {int(seed): order for seed, order in seen["seeds"].items()}
    seed = next_seed(item.family.versions, used)
    count = int(run.note.get("presented", 0)) + 1
    learning.row.presented += 1
    seen["seeds"][str(seed)] = learning.row.presented
    run.note["presented"] = count
    presentation = Presentation.objects.create(
        learner=learning.learner,
        run=run,
        revision=item.revision,
        purpose=Purpose(run.purpose),
        seed=seed,
        order=learning.row.presented if seed in used else 0,
        number=count,
        root=root,
        miss=miss,
        why=why or {},
        made_at=now,
    )
    run.current = presentation
    return presentation

"""Presenting a version to a learner."""

from __future__ import annotations

from datetime import datetime

from django.conf import settings

from vendaval.shared.changes import Changes
from vendaval.work.columns import Why
from vendaval.work.models import Presentation, Run
from vendaval_core.mastery.practice import next_seed

from .learning import Learning


def present(
    learning: Learning,
    run: Run,
    family_key: str,
    now: datetime,
    changes: Changes,
    *,
    why: Why,
    root: Presentation | None = None,
) -> Presentation:
    """The next presentation of a run: an unseen version of the family if there is one."""
    item, history = learning.bank.families[family_key], learning.family(family_key)
    in_test = learning.seeds_in_test(family_key)
    seed = next_seed(item.family.versions, history.seeds, _salt(learning, family_key), in_test)
    learning.row.presented += 1
    order = learning.row.presented if seed in history.seeds else 0
    history.seeds[seed] = learning.row.presented
    run.presented += 1
    presentation = Presentation(
        run=run,
        revision=item.revision_for(learning.enrolment.seed),
        seed=seed,
        order=order,
        number=run.presented,
        root=root,
        why=why,
        made_at=now,
    )
    run.current = presentation
    changes.add(presentation)
    changes.touch(run, "current", "presented", "note")
    return presentation


def _salt(learning: Learning, family_key: str) -> str:
    """What makes a learner's order of a family's versions their own, and nobody's to guess."""
    return f"{settings.SECRET_KEY}:{learning.enrolment.seed}:{family_key}"


def present_again(presentation: Presentation, now: datetime, changes: Changes) -> Presentation:
    """The same version once more, as if it had not been shown."""
    run = presentation.run
    run.presented += 1
    again = Presentation(
        run=run,
        revision=presentation.revision,
        seed=presentation.seed,
        order=presentation.order,
        number=run.presented,
        why=presentation.why,
        made_at=now,
    )
    run.current = again
    changes.add(again)
    changes.touch(run, "current", "presented")
    return again

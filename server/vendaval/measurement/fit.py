"""How well a learner's answers hang together."""

from __future__ import annotations

from vendaval.levels.learning import Learning
from vendaval.levels.models import Observation
from vendaval_core.measure.personfit import Answered, PersonFit, fit_at_mode

FIT_WINDOW = 60


def person_fit(learning: Learning, topic: int | None = None) -> PersonFit | None:
    """Fit of a learner's latest answers, in one topic (its number) or in all.

    Weight-1 first tries to questions that are right or wrong, at most 60. None without any.
    """
    rows = (
        Observation.objects.in_force()
        .filter(enrolment=learning.enrolment, weight__gt=0)
        .exclude(outcome=None)
    )
    if topic is not None:
        rows = rows.filter(topic_id=learning.bank.topics[topic].id)
    answers = []
    latest = rows.order_by("-tried_id").values_list("family_id", "outcome")[:FIT_WINDOW]
    for family_id, outcome in latest:
        family = learning.bank.past[family_id]
        if not family.curve.steps and outcome is not None:
            answers.append(Answered(family.topic, family.curve, int(outcome)))
    if not answers:
        return None
    prior = learning.bank.prior
    return fit_at_mode(answers, prior.mean, prior.covariance)

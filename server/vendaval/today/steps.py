"""The next steps of a learner, each with its reason and its length at their own pace."""

from __future__ import annotations

from collections.abc import Callable, Collection

from django.utils.translation import gettext

from vendaval.delivery.payload import reading_out
from vendaval.delivery.schemas import StudyLinkOut
from vendaval.diagnostic import steps as diagnostic
from vendaval.levels.snapshot import Snapshot
from vendaval.planning import steps as planning
from vendaval.practice import steps as practice
from vendaval.recheck import steps as recheck
from vendaval.review import steps as review
from vendaval_core.mastery.steps import MOST_STEPS, Step, StepKind, in_order

from .schemas import StepOut

StepProvider = Callable[[Snapshot], list[Step]]
MOST_STUDY = 2


def study_steps(seen: Snapshot) -> list[Step]:
    """Sections to read first, after "I haven't been taught this"."""
    bank, found = seen.learning.bank, []
    for key, place in list(seen.learning.row.to_study.items())[:MOST_STUDY]:
        topic, section = bank.section_of(place.topic, place.section, key)
        about = f"{topic.key}.{section.key}"
        title = f"Read: {section.title[:1].lower()}{section.title[1:]}"
        reason = gettext("You said you haven’t been taught this part of {topic}.").format(
            topic=topic.title.lower()
        )
        found.append(Step(StepKind.STUDY, about, title, reason, section.minutes, 0, 1.0))
    return found


PROVIDERS: tuple[StepProvider, ...] = (
    planning.steps,
    study_steps,
    recheck.steps,
    diagnostic.steps,
    practice.steps,
    review.steps,
)
"""Everything that can ask something of a learner. Each is handed the same snapshot."""


def steps_for(seen: Snapshot, aside: Collection[str]) -> list[StepOut]:
    """At most five next steps with their reasons. aside: keys of those put off or turned down."""
    found = in_order([step for provider in PROVIDERS for step in provider(seen)])
    shown = [step for step in found if step.key not in aside][:MOST_STEPS]
    return [step_out(step, seen) for step in shown]


def step_out(step: Step, seen: Snapshot) -> StepOut:
    """A step as it is shown: practice with the level it starts from, reading with its section."""
    reading, past, study = None, list[float](), None
    bank = seen.learning.bank
    if step.kind is StepKind.PRACTISE and step.topic is not None:
        topic = bank.topic(step.topic)
        reading = reading_out(seen.learning.readings[topic.number])
        past = seen.past.get(topic.id, [])
    if step.kind is StepKind.STUDY and step.topic is not None:
        where, _, own = step.topic.partition(".")
        topic, section = bank.section_of(where, own, where)
        study = StudyLinkOut(
            topic=topic.key, section=section.key, title=section.title, minutes=section.minutes
        )
    return StepOut(
        key=step.key,
        kind=step.kind.value,
        title=step.title,
        reason=step.reason,
        minutes=step.minutes,
        questions=step.questions,
        fewest=step.between[0] if step.between else None,
        most=step.between[1] if step.between else None,
        topic=step.topic,
        run=step.run,
        study=study,
        reading=reading,
        past=past,
    )

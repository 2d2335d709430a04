"""Endpoints of the self-made quiz; it is begun like every run."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Query, Router

from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_enrolment
from vendaval.levels.learning import learning_of
from vendaval.people.permissions import current_user, signed_in
from vendaval_core.mastery.steps import minutes_for

from .queries import quiz_items
from .schemas import QuizIdeaOut, QuizIn, QuizPlanOut

router = Router(auth=signed_in, tags=["quiz"])


@router.get("/quiz", response=QuizPlanOut, operation_id="get_quiz_plan")
def get_quiz_plan(request: HttpRequest, course: CourseKey, wanted: Query[QuizIn]) -> QuizPlanOut:
    """What a quiz over some topics would ask; looking begins nothing."""
    learning = learning_of(own_enrolment(current_user(request), course, "get_quiz_plan"))
    bank = learning.bank
    items = quiz_items(learning, wanted.topics.split(","), wanted.questions)
    found = sorted(items, key=lambda item: (bank.topic(item.topic).number, item.family))
    numbers = {bank.topic(item.topic).number for item in items}
    seconds = sum(learning.seconds(n) for n in numbers) / max(1, len(numbers))
    return QuizPlanOut(
        ideas=[
            QuizIdeaOut(
                title=bank.families[item.family].family.title,
                topic=PlaceOut(key=item.topic, title=bank.topic(item.topic).title),
                why=item.why(),
            )
            for item in found
        ],
        minutes=minutes_for(len(items), seconds) if items else 0,
    )

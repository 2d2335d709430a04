"""The courses somebody learns in, the way into one, and what they work towards there."""

from __future__ import annotations

from django.http import HttpRequest
from django.utils import timezone
from django.utils.translation import gettext
from ninja import Router

from vendaval.bank.snapshot import course_bank
from vendaval.people.api import session_out
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind
from vendaval.people.permissions import current_user, signed_in
from vendaval.people.schemas import CodeIn, SessionOut
from vendaval.shared import clock
from vendaval.shared.editing import edit_version, editing
from vendaval.shared.errors import NotFound, Unprocessable
from vendaval.shared.pace import refuse_many_codes

from . import actions, queries
from .addresses import CourseKey
from .columns import OwnAimsData
from .models import Enrolment, Group
from .practice import back_to_own, become_practice_learner
from .schemas import AimsEdit, AimsIn, AimsOut, CourseOut, CoursesOut, TopicAimOut

router = Router(auth=signed_in, tags=["courses"])
WEEK = 7


@router.get("/courses", response=CoursesOut, operation_id="list_courses")
def list_courses(request: HttpRequest) -> CoursesOut:
    user = current_user(request)
    rows = queries.enrolments_of(user)
    return CoursesOut(
        courses=[CourseOut(key=row.course.key, title=row.course.title) for row in rows],
        open=[CourseOut(key=one.key, title=one.title) for one in queries.open_courses(user)[:50]],
    )


@router.post("/courses/{slug:course}/begin", response=CourseOut, operation_id="start_course")
def start_course(request: HttpRequest, course: CourseKey) -> CourseOut:
    """Begin to learn in a course that is open to all."""
    user = current_user(request)
    found = queries.open_courses(user).filter(key=course).first()
    if found is None:
        raise NotFound(gettext("We can’t find this course, or it isn’t open to you."))
    actions.enrol(user, found)
    return CourseOut(key=found.key, title=found.title)


@router.post("/join", response=CourseOut, operation_id="join_group")
def join_group(request: HttpRequest, body: CodeIn) -> CourseOut:
    """Join the group of a code, and its course."""
    user = current_user(request)
    refuse_many_codes(request, user.pk)
    enrolment = actions.join_by_code(user, body.code)
    course = enrolment.course
    audit(AuditKind.JOINED_GROUP, request=request, account=user, says=course.title)
    return CourseOut(key=course.key, title=course.title)


@router.post(
    "/courses/{slug:course}/practice-learner",
    response=SessionOut,
    operation_id="start_practice_learner",
)
def start_practice_learner(request: HttpRequest, course: CourseKey) -> SessionOut:
    """Go on as my practice learner in a course that I teach or write for."""
    become_practice_learner(request, current_user(request), course)
    return session_out(request)


@router.delete("/practice-learner", response=SessionOut, operation_id="end_practice_learner")
def end_practice_learner(request: HttpRequest) -> SessionOut:
    """Back to the account that the practice learner belongs to."""
    back_to_own(request, current_user(request))
    return session_out(request)


def _aims_edit(enrolment: Enrolment) -> AimsEdit:
    return AimsEdit.model_construct(**enrolment.own.model_dump())


def _aims(enrolment: Enrolment) -> AimsOut:
    aims, own, bank = enrolment.aims, enrolment.own, course_bank(enrolment.course)
    mine = Group.objects.filter(members__enrolment=enrolment, members__until=None)
    return AimsOut(
        groups=list(mine.order_by("pk").values_list("title", flat=True)),
        own=aims.own,
        own_exam_on=own.exam_on,
        exams=aims.exams,
        minutes=aims.minutes,
        version=edit_version(_aims_edit(enrolment)),
        topics=[
            TopicAimOut(
                key=topic.key,
                title=topic.title,
                subject=topic.subject,
                target=round(aims.targets.get(topic.key, topic.target)),
                course_target=round(topic.target),
                own=round(own.targets[topic.key]) if topic.key in own.targets else None,
                taught=topic.key not in aims.not_taught,
            )
            for topic in bank.topics
        ],
    )


@router.get("/courses/{slug:course}/aims", response=AimsOut, operation_id="get_aims")
def get_aims(request: HttpRequest, course: CourseKey) -> AimsOut:
    """What I work towards: targets, the date, minutes a day, and what has been taught."""
    return _aims(queries.own_enrolment(current_user(request), course, "get_aims"))


@router.put("/courses/{slug:course}/aims", response=AimsOut, operation_id="set_aims")
def set_aims(request: HttpRequest, course: CourseKey, body: AimsIn) -> AimsOut:
    enrolment = queries.own_enrolment(current_user(request), course, "set_aims")
    known = {topic.key for topic in course_bank(enrolment.course).topics}
    unknown = sorted(body.targets.keys() - known)
    if unknown:
        raise Unprocessable(
            gettext("We can’t find these topics."), fields={"targets": ", ".join(unknown)}
        )
    if len(body.minutes) not in {0, WEEK}:
        raise Unprocessable(
            gettext("Give minutes for seven days, Monday to Sunday, or none."),
            fields={"minutes": "7 numbers"},
        )
    past = body.exam_on is not None and body.exam_on < timezone.localtime(clock.now()).date()
    if past and body.exam_on != enrolment.own.exam_on:
        raise Unprocessable(
            gettext("Choose a date from today on."), fields={"exam_on": gettext("is in the past")}
        )
    with editing(enrolment, body, lambda: _aims_edit(enrolment)):
        actions.set_own_aims(enrolment, OwnAimsData(**body.model_dump(exclude={"version"})))
    return _aims(enrolment)

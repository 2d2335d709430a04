"""Endpoints of whoever writes for a course."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_group
from vendaval.people.permissions import current_user, signed_in
from vendaval_core.authoring.starts import first_part, starts

from . import drafts, examples, trying, wrongs
from . import history as histories
from . import publishing as publishings
from .access import begun_for, course_of_author, course_of_writer, family_of_writer
from .collection_schemas import CollectionOut
from .collections import adopt, collection_page
from .example_schemas import BeginFromExamplesIn, ExamplesIn, FormulaOut
from .families import Opened
from .schemas import (
    ComparedOut,
    DiscardedOut,
    HistoryOut,
    NewFamilyIn,
    PublishIn,
    PublishingOut,
    RenameIn,
    SaveDraftIn,
    StartOut,
    StartsOut,
    TryVersionIn,
    VersionTriedOut,
    WorkbenchOut,
)
from .workbench import workbench
from .wrong_schemas import WrongAnswersOut

router = Router(auth=signed_in, tags=["authoring"])
FAMILY = "/families/{slug:family}"
Seed = Annotated[int, Query(ge=1, le=50)]
Number = Annotated[int, Query(ge=0, le=100_000)]


def _family(request: HttpRequest, course: str, key: str, operation: str) -> Opened:
    return family_of_writer(current_user(request), course, key, operation)


@router.post("/families", response=WorkbenchOut, operation_id="begin_family")
def begin_family(request: HttpRequest, course: CourseKey, body: NewFamilyIn) -> WorkbenchOut:
    """Begin a new question."""
    person = current_user(request)
    begun = begun_for(person, course, body.group, "begin_family")
    return workbench(drafts.begin_family(begun, body, person))


@router.get("/starts", response=StartsOut, operation_id="list_starts")
def list_starts(request: HttpRequest, course: CourseKey) -> StartsOut:
    """Kinds of parts that a question can be begun with, or given another of."""
    course_of_writer(current_user(request), course, "list_starts")
    return StartsOut(starts=[StartOut(start=one, part=first_part(one)) for one in starts()])


@router.post("/examples", response=FormulaOut, operation_id="look_for_formula")
def look_for_formula(request: HttpRequest, course: CourseKey, body: ExamplesIn) -> FormulaOut:
    """Look for the formula of a question from examples. Nothing is kept."""
    person = current_user(request)
    found = course_of_writer(person, course, "look_for_formula")
    return examples.look_for(found, body, person)


@router.post("/examples/begin", response=WorkbenchOut, operation_id="begin_from_examples")
def begin_from_examples(
    request: HttpRequest, course: CourseKey, body: BeginFromExamplesIn
) -> WorkbenchOut:
    """Begin a new question with a formula."""
    person = current_user(request)
    begun = begun_for(person, course, body.group, "begin_from_examples")
    return workbench(examples.begin_from_examples(begun, body, person))


@router.get(FAMILY, response=WorkbenchOut, operation_id="get_family")
def get_family(
    request: HttpRequest, course: CourseKey, family: str, seed: Seed = 1
) -> WorkbenchOut:
    """A question family as it is drafted, or else as it is published."""
    return workbench(_family(request, course, family, "get_family"), seed)


@router.put(FAMILY, response=WorkbenchOut, operation_id="save_draft")
def save_draft(
    request: HttpRequest, course: CourseKey, family: str, body: SaveDraftIn
) -> WorkbenchOut:
    """Keep a draft as it is typed. Learners see nothing of it."""
    found = _family(request, course, family, "save_draft")
    return workbench(drafts.save_draft(found, body, current_user(request)), body.seed)


@router.post(f"{FAMILY}/rename", response=WorkbenchOut, operation_id="rename_variable")
def rename_variable(
    request: HttpRequest, course: CourseKey, family: str, body: RenameIn
) -> WorkbenchOut:
    """Call a variable of a draft otherwise, wherever it stands."""
    found = _family(request, course, family, "rename_variable")
    return workbench(drafts.rename_variable(found, body, current_user(request)))


@router.delete(FAMILY, response=DiscardedOut, operation_id="discard_draft")
def discard_draft(request: HttpRequest, course: CourseKey, family: str) -> DiscardedOut:
    """Throw a draft away."""
    found = _family(request, course, family, "discard_draft")
    drafts.discard_draft(found)
    return DiscardedOut(published=found.family is not None)


@router.post(f"{FAMILY}/try", response=VersionTriedOut, operation_id="try_version")
def try_version(
    request: HttpRequest, course: CourseKey, family: str, body: TryVersionIn
) -> VersionTriedOut:
    """A version of a draft in the real player. Nothing is kept."""
    return trying.try_version(_family(request, course, family, "try_version"), body)


@router.get(f"{FAMILY}/publishing", response=PublishingOut, operation_id="check_publishing")
def check_publishing(request: HttpRequest, course: CourseKey, family: str) -> PublishingOut:
    """What publishing a draft would do, with all its versions checked."""
    found = _family(request, course, family, "check_publishing")
    return publishings.publishing(found, current_user(request))


@router.post(f"{FAMILY}/publish", response=WorkbenchOut, operation_id="publish_family")
def publish_family(
    request: HttpRequest, course: CourseKey, family: str, body: PublishIn
) -> WorkbenchOut:
    """Put a draft in force."""
    found = _family(request, course, family, "publish_family")
    return workbench(publishings.publish(found, body, current_user(request)))


@router.post(f"{FAMILY}/adopt", response=WorkbenchOut, operation_id="adopt_question")
def adopt_question(request: HttpRequest, course: CourseKey, family: str) -> WorkbenchOut:
    """Take a group's own question into the course."""
    course_of_author(current_user(request), course, "adopt_question")
    found = _family(request, course, family, "adopt_question")
    return workbench(adopt(found, current_user(request)))


@router.get(f"{FAMILY}/wrong-answers", response=WrongAnswersOut, operation_id="get_wrong_answers")
def get_wrong_answers(request: HttpRequest, course: CourseKey, family: str) -> WrongAnswersOut:
    """Common wrong answers, and the slips behind those that nobody foresaw."""
    found = _family(request, course, family, "get_wrong_answers")
    return wrongs.wrong_answers(found, current_user(request))


@router.get(f"{FAMILY}/history", response=HistoryOut, operation_id="get_history")
def get_history(request: HttpRequest, course: CourseKey, family: str) -> HistoryOut:
    """Every revision, and how the draft was at times."""
    return histories.history(_family(request, course, family, "get_history"))


@router.get(f"{FAMILY}/compare", response=ComparedOut, operation_id="compare_revisions")
def compare_revisions(
    request: HttpRequest,
    course: CourseKey,
    family: str,
    older: Number,
    newer: Number,
    seed: Seed = 1,
) -> ComparedOut:
    """Two revisions as their learners see the same version, and as files; 0 is the draft."""
    found = _family(request, course, family, "compare_revisions")
    return histories.compared(found, older, newer, seed)


@router.post(
    f"{FAMILY}/revisions/{{int:number}}/restore",
    response=WorkbenchOut,
    operation_id="restore_revision",
)
def restore_revision(
    request: HttpRequest, course: CourseKey, family: str, number: int
) -> WorkbenchOut:
    """Make a draft of an older revision."""
    found = _family(request, course, family, "restore_revision")
    return workbench(histories.restore_revision(found, number, current_user(request)))


@router.post(
    f"{FAMILY}/steps/{{int:step}}/restore", response=WorkbenchOut, operation_id="restore_step"
)
def restore_step(request: HttpRequest, course: CourseKey, family: str, step: int) -> WorkbenchOut:
    """Make the draft what it was at a time."""
    found = _family(request, course, family, "restore_step")
    return workbench(histories.restore_step(found, step, current_user(request)))


groups = Router(auth=signed_in, tags=["authoring"])


@groups.get(
    "/groups/{int:group_id}/questions", response=CollectionOut, operation_id="list_own_questions"
)
def list_own_questions(request: HttpRequest, group_id: int) -> CollectionOut:
    """A group's own questions."""
    return collection_page(own_group(current_user(request), group_id, "list_own_questions"))

"""Writing drafts: begun, saved as somebody types, put back, thrown away."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import transaction
from django.utils.translation import gettext

from vendaval.bank.models import Course, Family, Topic
from vendaval.bank.snapshot import course_bank
from vendaval.groups.actions import collection_of
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.editing import Edited, editing
from vendaval.shared.errors import Changed, Conflict, NotFound, Unprocessable
from vendaval_core.authoring.edits import rewritten
from vendaval_core.authoring.expressions import renamed
from vendaval_core.authoring.keys import as_key, free_key
from vendaval_core.authoring.starts import new_family, starts
from vendaval_core.errors import UnwritableError, VariableNameError
from vendaval_core.packs.located import PackProblem, parse_yaml

from .access import Begun
from .families import Opened, opened
from .models import Draft, DraftStep
from .schemas import DraftFile, NewFamilyIn, RenameIn, SaveDraftIn
from .workbench import draft_state, draft_version

ONE_STEP = timedelta(minutes=5)
MOST_DRAFTS, MOST_OWN_DRAFTS = 400, 60


class _Wanted(DraftFile, Edited):
    """What is wanted of a draft, as a file."""


def begin_family(begun: Begun, body: NewFamilyIn, by: User) -> Opened:
    """A new family in a topic, with everything it needs to show its versions at once."""
    course = begun.course
    topic = _topic(begun, body.topic)
    if body.start not in starts():
        raise Unprocessable(gettext("There is no such kind."), fields={"start": body.start})
    own = None if begun.group is None else begun.group.collection_id
    drafts = Draft.objects.filter(course=course, collection=own)
    if drafts.count() >= (MOST_DRAFTS if begun.group is None else MOST_OWN_DRAFTS):
        raise Conflict(gettext("Publish or throw away some drafts first."), code="too_many_drafts")
    section = topic.sections.order_by("position").values_list("key", flat=True).first()
    text = new_family(body.title.strip(), body.start, section or "start")
    now = clock.now()
    with transaction.atomic():
        draft = Draft.objects.create(
            course=course,
            topic=topic,
            key=key_for(course, body.title),
            collection=None if begun.group is None else collection_of(begun.group),
            text=text,
            began_by=by,
            by=by,
            began_at=now,
            at=now,
        )
    return opened(course, draft.key, by)


def _topic(begun: Begun, key: str) -> Topic:
    """The topic to begin a question in. A group's own needs one that the course asks about: its
    level is the course's."""
    topic = Topic.objects.filter(course=begun.course, key=key).first()
    if topic is None:
        raise NotFound(gettext("This course doesn’t have that topic."))
    if begun.group is None:
        return topic
    if key not in {one.key for one in course_bank(begun.course).topics}:
        says = gettext("The course has no question in this topic yet, so ask its authors first.")
        raise Conflict(says, code="no_questions")
    return topic


def key_for(course: Course, title: str) -> str:
    """A key made of a title that no family and no draft of the course has."""
    stem = as_key(title, "question")
    taken = {
        *Family.objects.filter(course=course, key__startswith=stem).values_list("key", flat=True),
        *Draft.objects.filter(course=course, key__startswith=stem).values_list("key", flat=True),
    }
    return free_key(title, "question", taken)


def save_draft(family: Opened, body: SaveDraftIn, by: User) -> Opened:
    """Keep what somebody typed. Changed, with what stands, if somebody else typed meanwhile."""
    text = _wanted(family, body)
    if family.draft is None and text == family.published_text:
        return family
    now = clock.now()
    try:
        with transaction.atomic():
            draft = _draft_of(family, by)
            with editing(draft, _Wanted(version=body.version, text=text), lambda: _now(draft)):
                _keep(draft, family, text, by, now)
    except Changed as error:
        standing = opened(family.course, family.key, by)
        raise Changed(
            draft_version(standing.text), draft_state(standing).model_dump(mode="json")
        ) from error
    return opened(family.course, family.key, by)


def keep_text(family: Opened, text: str, by: User) -> Opened:
    """Make a draft of a text, whatever was drafted."""
    return save_draft(family, SaveDraftIn(version=draft_version(family.text), text=text), by)


def rename_variable(family: Opened, body: RenameIn, by: User) -> Opened:
    """Call a variable otherwise, wherever it stands."""
    data = draft_state(family).data
    if data is None:
        raise Conflict(gettext("The file has to be mended first."), code="not_yaml")
    try:
        wanted = renamed(data, body.old, body.new)
    except VariableNameError as error:
        raise Unprocessable(str(error), fields={"new": str(error)}) from error
    return save_draft(family, SaveDraftIn(version=body.version, data=wanted), by)


def _now(draft: Draft) -> DraftFile:
    return DraftFile(text=draft.text)


def _keep(draft: Draft, family: Opened, text: str, by: User, now: datetime) -> None:
    """Keep a text; a draft that is as what is published is none."""
    if text == family.published_text:
        draft.delete()
        return
    if text != draft.text or not draft.steps.exists():
        _note_step(draft, text, by, now)
    draft.text, draft.by, draft.at = text, by, now
    draft.save(update_fields=["text", "by", "at"])


def _wanted(family: Opened, body: SaveDraftIn) -> str:
    """The file that is wanted; what a form says is written into the file it was opened with."""
    if body.text is not None:
        return body.text
    if body.data is None:
        raise Unprocessable(gettext("Nothing was sent."), fields={"text": "missing"})
    if isinstance(parse_yaml(family.text, ""), PackProblem):
        raise Conflict(gettext("The file has to be mended first."), code="not_yaml")
    try:
        text = rewritten(family.text, body.data)
    except UnwritableError as error:
        raise Unprocessable(str(error), fields={"data": error.code}) from error
    if body.version != draft_version(family.text) and text != family.text:
        raise Changed(draft_version(family.text), draft_state(family).model_dump(mode="json"))
    return text


def _draft_of(family: Opened, by: User) -> Draft:
    """The draft of a family, begun with what is published where there is none."""
    now = clock.now()
    draft, _ = Draft.objects.get_or_create(
        course=family.course,
        key=family.key,
        defaults={
            "topic": family.topic,
            "collection_id": family.collection_id,
            "base": family.published,
            "text": family.published_text or "",
            "began_by": by,
            "by": by,
            "began_at": now,
            "at": now,
        },
    )
    return draft


def _note_step(draft: Draft, text: str, by: User, now: datetime) -> None:
    last = draft.steps.order_by("-pk").first()
    if last is not None and last.by_id == by.pk and now - last.at < ONE_STEP:
        last.text = text
        last.save(update_fields=["text"])
        return
    DraftStep.objects.create(draft=draft, text=text, by=by, at=now)


def discard_draft(family: Opened) -> None:
    """Throw a draft away."""
    if family.draft is not None:
        family.draft.delete()


def title_of(text: str) -> str:
    """The title that a file begins with, readable or not; empty where it has none."""
    first = text.partition("\n")[0]
    return first.removeprefix("title:").strip().strip("\"'") if first.startswith("title:") else ""

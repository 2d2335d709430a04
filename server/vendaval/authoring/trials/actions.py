"""Trials begun, looked at, ended, and the better text taken over."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.utils.translation import gettext

from vendaval.authoring.all_versions import problems_of
from vendaval.authoring.course.page_schemas import PageSectionIn, StudyPageIn
from vendaval.authoring.course.pages import page_to_edit, save_page, topic_of
from vendaval.authoring.drafts import keep_text
from vendaval.authoring.families import Opened, opened
from vendaval.authoring.workbench import draft_version
from vendaval.bank.actions import refresh_digest
from vendaval.bank.digests import digest_of
from vendaval.bank.models import Course, FamilyData, FamilyRevision, RevisionSource, Trial
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.errors import Changed, Conflict, NotFound, Unprocessable
from vendaval_core.authoring.edits import rewritten
from vendaval_core.authoring.study_pages import with_text as with_section_text
from vendaval_core.authoring.trial_texts import TrialText, texts_in, with_text
from vendaval_core.errors import UnwritableError
from vendaval_core.measure.trials import Standing, Verdict, followed
from vendaval_core.packs.located import PackProblem, parse_yaml

from .evidence import answers_of
from .schemas import StartTrialIn

FRESH_SECONDS = 60.0
OF_TRIAL = ("course", "family", "topic", "revision__family__topic", "by")


def texts_of(family: Opened) -> list[TrialText]:
    """The texts of a published question that a trial can be about."""
    if family.published_text is None:
        return []
    read = parse_yaml(family.published_text, family.path)
    return [] if isinstance(read, PackProblem) else texts_in(read.data)


def start_trial(course: Course, body: StartTrialIn, by: User) -> Trial:
    """Begin to give learners one of two texts. Unprocessable where the second can't be shown;
    Changed where the first isn't what stands now."""
    now = clock.now()
    if body.second.strip() == body.first.strip():
        says = gettext("The two texts are the same.")
        raise Unprocessable(says, fields={"second": says})
    about = opened(course, body.family, by) if body.family else None
    if about is not None and about.collection_id is not None:
        says = gettext("This is a group’s own question. Take it into the course first.")
        raise Conflict(says, code="own_question")
    text = _checked(about, body, by) if about is not None else ""
    shared: dict[str, Any] = {
        "course": course,
        "first": body.first,
        "second": body.second.strip(),
        "by": by,
        "began_at": now,
        "until": now + timedelta(weeks=body.weeks),
    }
    try:
        with transaction.atomic():
            if body.family:
                family = opened(course, body.family, by)
                trial = _of_family(family, body, text, by, now, shared)
            else:
                trial = _of_section(course, body, shared)
            refresh_digest(course)
            says = gettext("A trial of {name} began").format(name=trial.name)
            audit(AuditKind.PUBLISHED, by=by, account=by, says=f"{course.title}: {says}")
    except IntegrityError as error:
        says = gettext("A trial of it is going on. End that one first.")
        raise Conflict(says, code="one_trial") from error
    return trial


def _found(family: Opened, body: StartTrialIn) -> TrialText:
    found = {one.place: one for one in texts_of(family)}.get(body.place)
    if found is None or family.published_text is None:
        raise NotFound(gettext("This question doesn’t have that text."))
    if found.text != body.first:
        raise Changed(draft_version(family.published_text), {"first": found.text})
    return found


def _checked(family: Opened, body: StartTrialIn, by: User) -> str:
    """The question's file with the second text, once all its versions were found to be right."""
    _found(family, body)
    text = _with(family, body.place, body.second)
    problems = problems_of(family, text, by)
    if problems:
        says = gettext("This text can’t be used.")
        raise Unprocessable(says, fields={"second": problems[0].says})
    return text


def _of_family(
    family: Opened,
    body: StartTrialIn,
    text: str,
    by: User,
    now: datetime,
    shared: dict[str, Any],
) -> Trial:
    found, read = _found(family, body), family.read(text)
    assert family.family is not None, "it is published"
    assert read.read is not None, "it was checked"
    revision = FamilyRevision.objects.create(
        family=family.family,
        number=family.family.revisions.count() + 1,
        data=FamilyData.model_validate(read.read.data),
        digest=digest_of(read.read.data),
    )
    RevisionSource.objects.create(
        revision=revision,
        text=text,
        why=gettext("The second text of a trial: {name}").format(name=found.name),
        by=by,
        at=now,
        in_pack=False,
    )
    name = f"{read.read.family.title}, {found.name}"
    return Trial.objects.create(
        family=family.family, place=body.place, revision=revision, name=name[:200], **shared
    )


def _with(family: Opened, place: str, text: str) -> str:
    """The published file with another text in it."""
    assert family.published_text is not None, "it is published"
    read = parse_yaml(family.published_text, family.path)
    assert not isinstance(read, PackProblem), "it is published"
    try:
        return rewritten(family.published_text, with_text(read.data, place, text))
    except UnwritableError as error:
        raise Unprocessable(str(error), fields={"second": str(error)}) from error


def _of_section(course: Course, body: StartTrialIn, shared: dict[str, Any]) -> Trial:
    topic = topic_of(course, body.topic)
    section = topic.sections.filter(key=body.section).first()
    if section is None:
        raise NotFound(gettext("This topic doesn’t have that section."))
    if section.markdown != body.first:
        raise Changed(draft_version(section.markdown), {"first": section.markdown})
    if "![" in body.second:
        says = gettext("Both texts have the drawing of the section. Leave it out here.")
        raise Unprocessable(says, fields={"second": says})
    name = gettext("{topic}, section “{section}”").format(topic=topic.title, section=section.title)
    return Trial.objects.create(topic=topic, section=section.key, name=name[:200], **shared)


def looked_at(trial: Trial) -> Trial:
    """A trial as it stands after everything answered until a minute ago; it ends where that decides
    it."""
    now = clock.now()
    seen = trial.result.get("at", 0.0)
    if trial.ended_at is not None or now.timestamp() - seen < FRESH_SECONDS:
        return trial
    standing = followed(answers_of(trial), over=now >= trial.until)
    trial.result = kept(standing) | {"at": now.timestamp()}
    fields = ["result"]
    if standing.verdict is not Verdict.RUNNING:
        trial.verdict, trial.ended_at = standing.verdict.value, now
        fields += ["verdict", "ended_at"]
    with transaction.atomic():
        Trial.objects.filter(pk=trial.pk, ended_at=None).update(
            **{name: getattr(trial, name) for name in fields}
        )
        if trial.ended_at is not None:
            refresh_digest(trial.course)
    return trial


def kept(standing: Standing) -> dict[str, float]:
    """What of a standing is stored."""
    return {
        "answers": standing.answers,
        "points": round(standing.points, 2),
        "low": round(standing.low, 2),
        "high": round(standing.high, 2),
    }


def adopt(trial: Trial, by: User) -> None:
    """Take the second text over: as a draft of the question, which is published like any other, or
    at once in the study page."""
    if trial.verdict != Verdict.SECOND.value:
        raise Conflict(gettext("The second text wasn’t found to be better."), code="not_better")
    if trial.family is not None:
        family = opened(trial.course, trial.family.key, by)
        keep_text(family, _with(family, trial.place, trial.second), by)
        _note_adopted(trial)
        return
    assert trial.topic is not None, "it is about a section"
    page = page_to_edit(trial.course, trial.topic)
    sections = [
        PageSectionIn(
            key=one.key,
            title=one.title,
            body=with_section_text(one.body, trial.second)
            if one.key == trial.section
            else one.body,
        )
        for one in page.sections
    ]
    why = gettext("Better in a trial of {answers} answers.").format(
        answers=trial.result.get("answers", 0)
    )
    body = StudyPageIn(version=page.version, sections=sections, resources=page.resources, why=why)
    save_page(trial.course, trial.topic, body, by)
    _note_adopted(trial)


def _note_adopted(trial: Trial) -> None:
    Trial.objects.filter(pk=trial.pk).update(adopted_at=clock.now())

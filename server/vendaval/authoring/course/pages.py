"""Study pages: opened to be edited, shown as learners would see them, put in force."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from functools import partial

from django.db.models import Count
from django.db.models.fields.json import KeyTextTransform
from django.utils.translation import gettext

from vendaval.authoring.bank.sections import SectionRead, sections_read
from vendaval.authoring.models import BankState
from vendaval.authoring.workbench import problem_out
from vendaval.bank.actions import refresh_digest
from vendaval.bank.digests import digest_of
from vendaval.bank.kept import IN_FILES, current_files, file_row, topic_files
from vendaval.bank.loading import load_study
from vendaval.bank.models import Course, CourseFile, Topic
from vendaval.delivery.schemas import PlaceOut
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.editing import Edited, edit_version, editing
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval.shared.markdown import to_html
from vendaval.work.models import HelpKind, HelpOpened
from vendaval_core.authoring.structure import study_path
from vendaval_core.authoring.study_pages import PageSection, page_with, sections_in
from vendaval_core.items.presented import figure_out
from vendaval_core.items.svg import svg_faults
from vendaval_core.packs.figures import figure_of_page
from vendaval_core.packs.located import PackProblem
from vendaval_core.packs.study import StudySection, read_study_page
from vendaval_core.packs.topic_files import TopicFiles

from .beside import Beside, resources_to_edit
from .page_schemas import (
    AfterReadingOut,
    DrawingIn,
    PagePreviewOut,
    PageSectionIn,
    PageSectionsIn,
    SectionShownOut,
    SectionUseOut,
    StudyPageEdit,
    StudyPageIn,
    StudyPageToEditOut,
)

MOST_DRAWINGS = 60


class _Wanted(StudyPageEdit, Edited):
    """A page without why it changes, which is no part of what stands."""


@dataclass(frozen=True, slots=True)
class PageRead:
    """A study page's sections, and what is wrong with it."""

    sections: list[StudySection]
    problems: list[PackProblem]


def sections_of(text: str, topic: str, files: TopicFiles) -> PageRead:
    """Read a study page with the drawings it names. files: of its topic."""
    path = study_path(topic)
    return PageRead(*read_study_page(text, path, partial(figure_of_page, files, path)))


def topic_of(course: Course, key: str) -> Topic:
    """A topic of a course, or NotFound."""
    found = Topic.objects.filter(course=course, key=key).first()
    if found is None:
        raise NotFound(gettext("This course doesn’t have that topic."))
    return found


def _file(course: Course, topic: Topic) -> CourseFile:
    path = study_path(topic.key)
    found = current_files(course, path).get(path)
    if found is None:
        says = gettext("This topic’s page isn’t kept as a file. Load its pack once more.")
        raise Conflict(says, code="no_files")
    return found


def sections_to_edit(text: str) -> list[PageSectionIn]:
    """The sections of a study page as they are edited."""
    return [PageSectionIn(**asdict(one)) for one in sections_in(text)]


def _standing(course: Course, topic: Topic) -> StudyPageEdit:
    return StudyPageEdit(
        sections=sections_to_edit(_file(course, topic).text),
        resources=resources_to_edit(course, topic),
    )


def page_to_edit(course: Course, topic: Topic) -> StudyPageToEditOut:
    """A study page with what hangs on each of its sections."""
    now = _standing(course, topic)
    figures = f"topics/{topic.key}/figures/"
    return StudyPageToEditOut(
        topic=PlaceOut(key=topic.key, title=topic.title),
        version=edit_version(now),
        sections=now.sections,
        resources=now.resources,
        uses=_uses(course, topic, [one.key for one in now.sections]),
        drawings=[path[len(figures) :] for path in current_files(course, figures)],
    )


def _uses(course: Course, topic: Topic, keys: list[str]) -> list[SectionUseOut]:
    explains: dict[str, list[PlaceOut]] = {key: [] for key in keys}
    asked = course.families.filter(IN_FILES).order_by("key")
    fields = [KeyTextTransform(name, "latest__data") for name in ("study", "title")]
    for key, own, study, title in asked.values_list("key", "topic__key", *fields):
        where, _, section = str(study).rpartition("#")
        if (where or own) == topic.key and section in explains:
            explains[section].append(PlaceOut(key=key, title=str(title)))
    opened = HelpOpened.objects.filter(
        enrolment__course=course, kind=HelpKind.STUDY, topic=topic.key
    )
    readers = dict(
        opened.order_by().values_list("section").annotate(Count("enrolment", distinct=True))
    )
    state = BankState.objects.filter(course=course).first()
    after = {one.section: one for one in sections_read(state) if one.topic == topic.key}
    return [
        SectionUseOut(
            key=key,
            explains=found,
            readers=readers.get(key, 0),
            after=_after(after[key]) if key in after else None,
        )
        for key, found in explains.items()
    ]


def _after(one: SectionRead) -> AfterReadingOut:
    return AfterReadingOut(
        answers=one.answers,
        right=round(100 * one.right),
        expected=round(100 * one.expected),
        points=round(one.points),
        low=round(one.low),
        high=round(one.high),
    )


def _read(course: Course, topic: Topic, text: str) -> PageRead:
    return sections_of(text, topic.key, topic_files(course, topic.key))


def preview(course: Course, topic: Topic, body: PageSectionsIn) -> PagePreviewOut:
    """Sections as learners would see them, or what is wrong with them."""
    found = _read(course, topic, _text(course, topic, body))
    return PagePreviewOut(
        shown=[
            SectionShownOut(
                html=to_html(one.markdown), figure=figure_out(one.figure), minutes=one.minutes
            )
            for one in ([] if found.problems else found.sections)
        ],
        problems=[problem_out(one) for one in found.problems],
    )


def _text(course: Course, topic: Topic, body: PageSectionsIn) -> str:
    wanted = [PageSection(one.key, one.title.strip(), one.body.strip()) for one in body.sections]
    return page_with(_file(course, topic).text, wanted)


def save_page(course: Course, topic: Topic, body: StudyPageIn, by: User) -> None:
    """Put a study page in force. Unprocessable with everything that is wrong with it; Changed if
    somebody else changed it meanwhile."""
    wanted = _Wanted(sections=body.sections, resources=body.resources, version=body.version)
    with editing(topic, wanted, lambda: _standing(course, topic)):
        file, why = _file(course, topic), body.why.strip()
        text = _text(course, topic, body)
        found = _read(course, topic, text)
        beside = Beside(course, topic, body.resources, [one.id for one in found.sections])
        if text == file.text and not beside.changed:
            return
        faults = {f"line {one.line}": one.what for one in found.problems}
        faults |= _still_used(course, topic, {one.id for one in found.sections})
        faults |= beside.faults
        if faults:
            raise Unprocessable(gettext("The page can’t be like this."), fields=faults)
        now = clock.now()
        if text != file.text:
            file_row(course, file.path, text.encode(), now, by=by, why=why).save()
            load_study(topic, found.sections)
        beside.put_in_force(now, by, why)
        course.content = digest_of([course.content, file.path, text, beside.text])
        course.save(update_fields=["content"])
        refresh_digest(course)
        says = gettext("Study page of {topic}: {why}").format(topic=topic.title, why=why)
        audit(AuditKind.PUBLISHED, by=by, account=by, says=says)


def _still_used(course: Course, topic: Topic, kept: set[str]) -> dict[str, str]:
    """Sections that are gone though questions point to them."""
    now = sections_to_edit(_file(course, topic).text)
    before = [one.key for one in now if one.key not in kept]
    found = {}
    for one in _uses(course, topic, before):
        if one.explains:
            says = gettext("“{section}” explains “{question}”, so it can’t be removed.")
            found[one.key] = says.format(section=one.key, question=one.explains[0].title)
    return found


def add_drawing(course: Course, topic: Topic, body: DrawingIn, by: User) -> None:
    """Keep a drawing with a topic, for its page and its questions to name."""
    folder = f"topics/{topic.key}/figures/"
    faults = list(svg_faults(body.svg))
    if faults:
        raise Unprocessable(gettext("This drawing can’t be used."), fields={"svg": faults[0]})
    kept = current_files(course, folder)
    path = f"{folder}{body.name}"
    if path in kept and kept[path].text != body.svg:
        says = gettext("There’s already a drawing of this name.")
        raise Unprocessable(says, fields={"name": says})
    if path not in kept and len(kept) >= MOST_DRAWINGS:
        raise Conflict(gettext("This topic has enough drawings."), code="too_many_drawings")
    if path not in kept:
        file_row(course, path, body.svg.encode(), clock.now(), by=by).save()

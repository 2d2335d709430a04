"""Study pages: sections, whose text comes only as each is opened."""

from __future__ import annotations

from datetime import timedelta

from django.core.files.storage import default_storage
from django.http import FileResponse, HttpRequest, HttpResponse
from django.utils.translation import gettext

from vendaval.bank.models import Course, Resource, ResourceKind, StudySection, Trial
from vendaval.bank.queries import study_page
from vendaval.bank.resources import resources_of
from vendaval.delivery.part_schemas import stored_picture
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.models import Enrolment
from vendaval.shared import clock
from vendaval.shared.errors import NotFound
from vendaval.shared.markdown import to_html
from vendaval.work.models import HelpKind, HelpOpened
from vendaval_core.items.presented import figure_out
from vendaval_core.measure.trials import gets_second

from .ranges import ranged
from .schemas import ResourceOut, StudyPageOut, StudySectionOut, StudyTextOut

OPEN_FOR = timedelta(days=1)
KINDS = {
    ".webm": "video/webm",
    ".mp4": "video/mp4",
    ".vtt": "text/vtt; charset=utf-8",
    ".pdf": "application/pdf",
    ".txt": "text/plain; charset=utf-8",
    ".csv": "text/csv; charset=utf-8",
    ".png": "image/png",
}


def study(course: Course, key: str) -> StudyPageOut:
    """A topic's study page: its sections, whose text comes as each is opened."""
    topic = study_page(course, key)
    sections = sorted(topic.sections.all(), key=lambda section: section.position)
    return StudyPageOut(
        topic=PlaceOut(key=topic.key, title=topic.title),
        subject=topic.subject.title,
        sections=[
            StudySectionOut(
                key=s.key,
                title=s.title,
                minutes=s.minutes,
            )
            for s in sections
        ],
    )


def study_text(enrolment: Enrolment, key: str, section: str) -> StudyTextOut:
    """A section's own text, or in a trial the one this learner gets; NotFound unless the topic has
    it."""
    course = enrolment.course
    for s in study_page(course, key).sections.all():
        if s.key == section:
            return StudyTextOut(
                key=s.key,
                title=s.title,
                html=to_html(_text_for(s, enrolment)),
                figure=figure_out(stored_picture(s.figure)),
                resources=[
                    _resource_out(course, one) for one in resources_of(course, key, section)
                ],
            )
    raise NotFound(gettext("We can’t find this section."))


def _text_for(section: StudySection, enrolment: Enrolment) -> str:
    running = Trial.objects.filter(topic=section.topic_id, section=section.key, ended_at=None)
    trial = running.first()
    second = trial is not None and gets_second(trial.pk, enrolment.seed)
    return trial.second if trial is not None and second else section.markdown


def _resource_out(course: Course, one: Resource) -> ResourceOut:
    own = f"/api/courses/{course.key}/resources/{one.pk}"
    return ResourceOut(
        key=one.key,
        title=one.title,
        kind=ResourceKind(one.kind),
        minutes=one.minutes,
        address=one.url or f"{own}/file",
        captions=f"{own}/captions" if one.captions else None,
    )


def resource_file(
    request: HttpRequest, enrolment: Enrolment, resource: int, what: str
) -> HttpResponse | FileResponse:
    """A film, its captions or a file. It explains what its section explains, so it is to be had
    for a day from when that was opened, which is on record as help."""
    found = Resource.objects.filter(pk=resource, topic__course=enrolment.course)
    one = found.select_related("topic").first()
    name = "" if one is None else one.captions if what == "captions" else one.file
    if one is None or not name:
        raise NotFound(gettext("We can’t find this resource."))
    opened = HelpOpened.objects.filter(
        enrolment=enrolment,
        kind=HelpKind.STUDY,
        topic=one.topic.key,
        section=one.section,
        at__gte=clock.now() - OPEN_FOR,
    )
    if not opened.exists():
        raise NotFound(gettext("Read its study section first."))
    ending = name[name.rindex(".") :]
    shown = f"{one.key}{ending}"
    return ranged(request, default_storage.open(name), KINDS[ending], shown)

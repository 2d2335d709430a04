"""Study pages: sections, whose text comes only as each is opened."""

from __future__ import annotations

from vendaval.bank.models import Course
from vendaval.bank.queries import study_page
from vendaval.delivery.parts_out import figure_out, stored_picture
from vendaval.delivery.schemas import PlaceOut
from vendaval.shared.errors import NotFound
from vendaval.shared.markdown import to_html

from .schemas import StudyPageOut, StudySectionOut, StudyTextOut


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


def study_text(course: Course, key: str, section: str) -> StudyTextOut:
    """A section's own text; NotFound unless the topic has it."""
    for s in study_page(course, key).sections.all():
        if s.key == section:
            return StudyTextOut(
                key=s.key,
                title=s.title,
                html=to_html(s.markdown),
                figure=figure_out(stored_picture(s.figure)),
            )
    raise NotFound("There is no such section.")

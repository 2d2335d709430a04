"""Courses that an office makes: empty but for a first topic, or as a copy of another."""

from __future__ import annotations

from django.db import transaction
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.bank.making import copy_course
from vendaval.bank.making import make_course as make
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, School, User
from vendaval.shared.errors import Unprocessable

from .schemas import NewCourseIn
from .scope import courses_of


def make_course(school: School, body: NewCourseIn, by: User, request: HttpRequest) -> None:
    """A new course of a school."""
    title, subject, topic = body.title.strip(), body.subject.strip(), body.topic.strip()
    if courses_of(school).filter(title__iexact=title).exists():
        says = gettext("There’s already a course with this name.")
        raise Unprocessable(says, fields={"title": says})
    source = courses_of(school).filter(key=body.copy_of).first()
    if body.copy_of and source is None:
        says = gettext("We can’t find this course.")
        raise Unprocessable(says, fields={"copy_of": says})
    missing = {name for name, text in (("subject", subject), ("topic", topic)) if not text}
    if source is None and missing:
        says = gettext("A course begins with a subject and a topic.")
        raise Unprocessable(says, fields=dict.fromkeys(sorted(missing), says))
    with transaction.atomic():
        made = (
            make(school, title, subject, topic)
            if source is None
            else copy_course(source, title, by)
        )
        says = gettext("{title}: a new course").format(title=made.title)
        audit(AuditKind.SETTINGS, request=request, by=by, says=says)

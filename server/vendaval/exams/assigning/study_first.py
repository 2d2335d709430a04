"""Study sections that go with set work: to read, or to read before."""

from __future__ import annotations

from collections.abc import Collection

from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.groups.columns import StudyFirst
from vendaval.groups.models import Enrolment
from vendaval.work.models import HelpKind, HelpOpened

from .schemas import StudyStepOut

Section = tuple[str, str]


def unknown_study(course: Course, first: Collection[StudyFirst]) -> dict[str, str]:
    """Study sections that the course has not, as a problem of their field."""
    bank = course_bank(course)
    known = {(topic.key, section.key) for topic in bank.topics for section in topic.sections}
    gone = [f"{one.topic}/{one.section}" for one in first if (one.topic, one.section) not in known]
    return (
        {"first": gettext("not in the course: {gone}").format(gone=", ".join(gone))} if gone else {}
    )


def sections_opened(enrolment: Enrolment) -> set[Section]:
    """Sections that a learner has ever opened, as keys of topic and section."""
    seen = HelpOpened.objects.filter(enrolment=enrolment, kind=HelpKind.STUDY)
    return set(seen.values_list("topic", "section"))


def study_steps(
    sections: Collection[StudyFirst], opened: Collection[Section], bank: CourseBank
) -> list[StudyStepOut]:
    """Sections in course order, each with whether it was opened."""
    wanted = {(one.topic, one.section) for one in sections}
    return [
        StudyStepOut(
            topic=topic.key,
            section=section.key,
            title=section.title,
            minutes=section.minutes,
            opened=(topic.key, section.key) in opened,
        )
        for topic in bank.topics
        for section in topic.sections
        if (topic.key, section.key) in wanted
    ]

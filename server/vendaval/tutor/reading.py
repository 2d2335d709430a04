"""A learner's pages as their tutor or guardian reads them: the learner's own figures, and what is
worth asking about."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db.models import Sum
from django.utils import timezone

from vendaval.groups.models import Enrolment
from vendaval.levels.standing import reached_by
from vendaval.record.queries import weeks_of
from vendaval.today.coming import coming, exam_of
from vendaval.today.lines import all_lines, learner_now, subject_lines
from vendaval.work.models import Try
from vendaval.work.runs import open_runs
from vendaval_core.words import counted

from .athome import help_for, set_for
from .schemas import RelatedOut
from .signals.page import own_asked

WEEK = timedelta(days=7)


def minutes_spent(enrolment: Enrolment, since: datetime, until: datetime) -> int:
    """Minutes spent on answers in a time; a single answer counts for ten minutes at the most."""
    rows = Try.objects.filter(enrolment=enrolment, at__gte=since, at__lt=until).standing()
    short = rows.filter(seconds__lte=600).aggregate(total=Sum("seconds"))["total"] or 0.0
    long = rows.filter(seconds__gt=600).count()
    return round(short / 60 + 10 * long)


def related_page(enrolment: Enrolment, *, evidence: bool) -> RelatedOut:
    """Where a learner stands, what is coming, and the effort of two weeks. evidence: whether what
    is worth asking comes with what it is asked for; a guardian has the question alone."""
    seen = learner_now(enrolment)
    learning, now = seen.learning, seen.now
    subjects = subject_lines(seen)
    lines = all_lines(subjects)
    misses = sum(line.misses for line in lines)
    work = set_for(enrolment, linked=evidence)
    return RelatedOut(
        id=enrolment.pk,
        name=enrolment.person.display_name,
        course=enrolment.course.key,
        course_title=enrolment.course.title,
        lead=f"{reached_by(learning).words_of_others}.",
        exam_on=exam_of(learning, timezone.localtime(now).date()),
        last_at=learning.row.last_answer_at,
        minutes_this_week=minutes_spent(enrolment, now - WEEK, now),
        minutes_before=minutes_spent(enrolment, now - 2 * WEEK, now - WEEK),
        misses=misses,
        under_way=[
            f"{run.title}, {counted(run.answered, 'answer')}" for run in open_runs(enrolment)[:5]
        ],
        coming=[f"{one.on:%A %-d %B}: {one.title}" for one in coming(learning, now, [])],
        signals=[
            f"{one.question} {one.evidence}" if evidence else one.question
            for one in own_asked(enrolment)
        ],
        weeks=weeks_of(enrolment),
        set_work=work,
        help=[] if evidence else help_for(learning, lines, work, misses),
        subjects=subjects,
    )

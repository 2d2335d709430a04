"""Slips that nobody foresaw, sought in the background for the questions that may hide one."""

from __future__ import annotations

import logging

from django.db.models import Count
from django.utils.translation import gettext

from vendaval.authoring.bank.lines import sync_lines
from vendaval.authoring.families import opened_in_background
from vendaval.authoring.models import BankLine
from vendaval.authoring.wrong_schemas import SlipOut
from vendaval.authoring.wrongs import slips_of
from vendaval.bank.models import Course
from vendaval.levels.models import Observation
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval.work.models import Mark

logger = logging.getLogger("vendaval.authoring")
# Each search is a process of its own that takes seconds.
MOST_SEARCHES = 12
FEWEST_UNFORESEEN = 12
# A slip that explains less is seen beside the question, and calls nobody there.
FEWEST_ANSWERS, LEAST_SHARE = 8, 0.25


def refresh_slips(course: Course) -> int:
    """Seek slips where there are more unexpected answers than when they were last sought, most of
    them first; how many questions have one of those looked at."""
    sync_lines(course)
    candidates, found = _candidates(course), 0
    lines = BankLine.objects.filter(course=course).select_related("family")
    lines.exclude(family__in=candidates).update(slips=[], sought=0)
    rows = lines.filter(family__in=candidates)
    due = [one for one in rows if candidates[one.family_id] != one.sought]
    due.sort(key=lambda one: one.sought - candidates[one.family_id])
    for line in due[:MOST_SEARCHES]:
        try:
            slips = slips_of(opened_in_background(course, line.family.key), f"course-{course.pk}")
        except (Conflict, Unprocessable):
            # Too much is being worked out now, or it takes too long: it is sought again later.
            logger.info("no slips could be sought", extra={"family": line.family.key})
            continue
        line.slips = [_says(one) for one in slips if _plain(one)][:1]
        line.sought = candidates[line.family_id]
        line.save(update_fields=["slips", "sought"])
        found += bool(line.slips)
    return found


def _candidates(course: Course) -> dict[int, int]:
    """How many unexpected answers there are to each question that has enough of them."""
    told = Observation.objects.told().filter(family__course=course, family__live=True)
    rows = (
        Mark.objects.filter(tried__in=told.values("tried"), verdict="wrong", says="")
        .values_list("tried__family")
        .annotate(many=Count("pk"))
        .filter(many__gte=FEWEST_UNFORESEEN)
        .order_by()
    )
    return dict(rows)


def _plain(slip: SlipOut) -> bool:
    return slip.answers >= FEWEST_ANSWERS and slip.answers >= LEAST_SHARE * slip.of


def _says(slip: SlipOut) -> str:
    says = gettext("{answers} of {of} unexpected wrong answers are {formula}.")
    return says.format(answers=slip.answers, of=slip.of, formula=slip.formula)

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
    """Seek slips where most wrong answers are unexpected; how many questions have one."""
    sync_lines(course)
    candidates, found = _candidates(course), 0
    lines = BankLine.objects.filter(course=course).select_related("family")
    lines.exclude(family__in=candidates).update(slips=[])
    for line in lines.filter(family__in=candidates):
        try:
            slips = slips_of(opened_in_background(course, line.family.key), f"course-{course.pk}")
        except (Conflict, Unprocessable):
            # Too much is being worked out now, or it takes too long: it is sought again later.
            logger.info("no slips could be sought", extra={"family": line.family.key})
            continue
        line.slips = [_says(one) for one in slips if _plain(one)][:1]
        line.save(update_fields=["slips"])
        found += bool(line.slips)
    return found


def _candidates(course: Course) -> list[int]:
    told = Observation.objects.told().filter(family__course=course, family__live=True)
    rows = (
        Mark.objects.filter(tried__in=told.values("tried"), verdict="wrong", says="")
        .values_list("tried__family")
        .annotate(many=Count("pk"))
        .filter(many__gte=FEWEST_UNFORESEEN)
        .order_by("-many")
    )
    return [family for family, _ in rows[:MOST_SEARCHES]]


def _plain(slip: SlipOut) -> bool:
    return slip.answers >= FEWEST_ANSWERS and slip.answers >= LEAST_SHARE * slip.of


def _says(slip: SlipOut) -> str:
    says = gettext("{answers} of {of} unexpected wrong answers are {formula}.")
    return says.format(answers=slip.answers, of=slip.of, formula=slip.formula)

"""A faulty question: nobody is asked it any more, at once. What that means is said first."""

from __future__ import annotations

from django.db.models import Count, Q
from django.utils.translation import gettext

from vendaval.bank.actions import ask_family_again, stop_family
from vendaval.bank.models import Course, Family, StoppedFamily
from vendaval.bank.snapshot import version_of
from vendaval.groups.queries import collections_open_to
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.errors import NotFound
from vendaval.work.models import Presentation, Purpose
from vendaval_core.words import counted

from .schemas import StoppedOut, StoppingOut

MOST = 60


def _family(course: Course, key: str, person: User) -> Family:
    own = Q(collection=None) | Q(collection__in=collections_open_to(person, course))
    rows = Family.objects.filter(course=course, key=key, rehearsal=False).exclude(latest=None)
    found = rows.filter(own).select_related("topic").first()
    if found is None:
        raise NotFound(gettext("This course doesn’t have that question."))
    found.course = course
    return found


def stopping(course: Course, key: str, person: User) -> StoppingOut:
    """Whether a question is stopped, and what stopping it would mean now."""
    family = _family(course, key, person)
    row = StoppedFamily.objects.filter(family=family).select_related("by").first()
    return StoppingOut(
        family=key,
        stopped=row is not None,
        why="" if row is None else row.why,
        by="" if row is None or row.by is None else row.by.display_name,
        at=None if row is None else row.at,
        means=_means(family),
        can=row is not None or family.live,
    )


def stopped_of(course: Course) -> list[StoppedOut]:
    """Questions of a course that are stopped, the newest first."""
    rows = StoppedFamily.objects.filter(family__course=course, family__collection=None)
    rows = rows.select_related("by", "family__latest", "family__topic")
    found = []
    for row in rows.order_by("-at")[:MOST]:
        row.family.course, revision = course, row.family.latest
        assert revision is not None, "it was asked"
        revision.family = row.family
        found.append(
            StoppedOut(
                family=row.family.key,
                title=version_of(revision, 1, 0).title,
                why=row.why,
                by="" if row.by is None else row.by.display_name,
                at=row.at,
            )
        )
    return found


def _means(family: Family) -> list[str]:
    open_ = Presentation.objects.filter(revision__family=family, closed_at=None, run__ended_at=None)
    tests = open_.filter(run__purpose=Purpose.TEST, run__attempt__handed_in_at=None)
    by_test = tests.values_list("run__attempt__test__title").annotate(many=Count("pk")).order_by()
    others = open_.exclude(run__purpose=Purpose.TEST).count()
    lines = [gettext("Practice, diagnostics, quizzes and new attempts leave it out from now on.")]
    if others:
        lines.append(
            gettext("{who} it open in practice: they get another question.").format(
                who=counted(others, "learner has", "learners have").capitalize()
            )
        )
    says = gettext("{who} it in “{test}” now. It still counts there until you regrade it.")
    for title, many in by_test:
        who = counted(many, "learner has", "learners have").capitalize()
        lines.append(says.format(who=who, test=title))
    lines.append(gettext("Marks that were given stay. Regrade a test to change them."))
    return lines


def stop(course: Course, key: str, why: str, by: User) -> StoppingOut:
    """Stop asking a question."""
    family = _family(course, key, by)
    stop_family(family, why.strip(), by, clock.now())
    says = gettext("{key}: not asked any more, {why}").format(key=key, why=why.strip())
    audit(AuditKind.SETTINGS, by=by, says=says)
    return stopping(course, key, by)


def ask_again(course: Course, key: str, by: User) -> StoppingOut:
    """Ask it again."""
    ask_family_again(_family(course, key, by))
    audit(AuditKind.SETTINGS, by=by, says=gettext("{key}: asked again").format(key=key))
    return stopping(course, key, by)

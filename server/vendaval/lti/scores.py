"""Scores sent back to the platforms that assigned the work: once they are out, and when they
change.

What is sent is what stands: a score that was sent and whose reply was lost is sent once more with
the same time, and the platform keeps one.
"""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta
from typing import Any, cast

from django.db.models import F
from django.utils.translation import gettext
from pylti1p3.assignments_grades import AssignmentsGradesService
from pylti1p3.exception import LtiException, LtiServiceException
from pylti1p3.grade import Grade
from pylti1p3.service_connector import ServiceConnector
from requests.exceptions import RequestException

from vendaval.assigning.tasks import standings_of
from vendaval.exams.assigning.assigned import given_to_each
from vendaval.exams.models import Assignment, Attempt
from vendaval.exams.taking.queries import kept_share
from vendaval.groups.models import Enrolment
from vendaval.groups.queries import members_of
from vendaval.shared import clock

from .models import Platform, PlatformAccount, PlatformLink, ScoreSent, ScoreState
from .picking import SCORE_MOST
from .scopes import SCORE
from .tool import our_requests, registration_of

EVERY, AT_ONCE = timedelta(seconds=60), 50
WAITS = tuple(timedelta(seconds=s) for s in (5, 30, 120, 600, 3600, 3 * 3600))
# A platform that is out of reach for so many tries is left alone until somebody sends again.
MOST_TRIES = 40
DIGITS = 4


def links_due(now: datetime) -> list[PlatformLink]:
    """Links whose scores are to be looked at again, those that waited longest first."""
    rows = PlatformLink.objects.filter(looked_at__lte=now - EVERY, context__platform__on=True)
    wanted = rows.exclude(scores_url="").select_related(
        "context__platform", "context__group__course", "assignment__test", "task__group__course"
    )
    return list(wanted.order_by("looked_at")[:AT_ONCE])


def look_at(link: PlatformLink) -> int:
    """Note scores that are out and that the platform hasn't got; how many."""
    now, changed = clock.now(), 0
    PlatformLink.objects.filter(pk=link.pk).update(looked_at=now)
    people = list(members_of(link.context.group))
    theirs = PlatformAccount.objects.filter(
        platform=link.context.platform_id, person__in=[one.person_id for one in people]
    )
    accounts = {one.person_id: one for one in theirs}
    known = {one.account_id: one for one in ScoreSent.objects.filter(link=link)}
    coming = [one for one in people if one.person_id in accounts]
    for enrolment, given in _scores(link, coming, now):
        account = accounts[enrolment.person_id]
        last = known.get(account.pk)
        if last is None or round(last.given, DIGITS) != round(given, DIGITS):
            changed += 1
            ScoreSent.objects.update_or_create(
                link=link,
                account=account,
                defaults={
                    "given": given,
                    "of": SCORE_MOST,
                    "at": now,
                    "state": ScoreState.DUE,
                    "says": "",
                    "tries": 0,
                    "next_at": now,
                },
            )
    return changed


def _scores(
    link: PlatformLink, people: list[Enrolment], now: datetime
) -> Iterator[tuple[Enrolment, float]]:
    """What each reached, of SCORE_MOST, of those who may be told."""
    if link.assignment is not None:
        yield from _of_test(link.assignment, people, now)
    elif link.task is not None:
        for enrolment, _, made in standings_of(link.task, people):
            if made.done:
                share = made.done / made.of if made.of else 1.0
                yield enrolment, SCORE_MOST * min(1.0, share)


def _of_test(
    assignment: Assignment, people: list[Enrolment], now: datetime
) -> Iterator[tuple[Enrolment, float]]:
    # Also those under way: what may be told of the others hangs on them.
    attempts = Attempt.objects.filter(assignment=assignment, enrolment__in=people)
    attempts = attempts.order_by("number")
    given = given_to_each(people, [assignment], attempts.select_related("enrolment"))
    for enrolment in people:
        own = given[assignment.pk, enrolment.pk]
        over = [one for one in own.attempts if one.total is not None]
        if not over or not all(own.released(one, now).score for one in over):
            continue
        share = kept_share(over, own.rules.score_kept)
        if share is not None:
            yield enrolment, float(share) * SCORE_MOST


def platforms_due(now: datetime) -> list[Platform]:
    """Platforms that have scores to be sent now."""
    due = ScoreSent.objects.filter(state=ScoreState.DUE, next_at__lte=now)
    return list(Platform.objects.filter(on=True, pk__in=due.values("link__context__platform")))


def send(platform: Platform) -> None:
    """Send a platform the scores that wait for it. One that fails holds up no other link's."""
    now = clock.now()
    due = ScoreSent.objects.filter(
        state=ScoreState.DUE, next_at__lte=now, link__context__platform=platform
    )
    connector = ServiceConnector(registration_of(platform), our_requests())
    for row in due.select_related("link", "account").order_by("next_at", "pk")[:AT_ONCE]:
        _send_one(connector, row)


def _send_one(connector: ServiceConnector, row: ScoreSent) -> None:
    """Send one score. What changed in the meantime stays due."""
    this = ScoreSent.objects.filter(pk=row.pk, at=row.at)
    try:
        _put(connector, row)
    except LtiServiceException as error:
        status = error.response.status_code
        says = f"{status} {' '.join(error.response.text.split())}"[:200]
        if 400 <= status < 500 and status not in {401, 403, 408, 425, 429}:
            this.update(state=ScoreState.REFUSED, says=says, tries=F("tries") + 1)
        else:
            _later(row, says)
    except (LtiException, RequestException, ValueError, KeyError) as error:
        _later(row, str(error)[:200])
    else:
        this.update(state=ScoreState.SENT, sent_at=clock.now(), says="", tries=F("tries") + 1)


def _later(row: ScoreSent, says: str) -> None:
    this = ScoreSent.objects.filter(pk=row.pk, at=row.at)
    if row.tries + 1 >= MOST_TRIES:
        gave_up = gettext("given up after {tries} tries: {says}")
        text = gave_up.format(tries=row.tries + 1, says=says)
        this.update(state=ScoreState.REFUSED, says=text[:300], tries=F("tries") + 1)
        return
    wait = WAITS[min(row.tries, len(WAITS) - 1)]
    this.update(says=says[:300], tries=F("tries") + 1, next_at=clock.now() + wait)


def _put(connector: ServiceConnector, row: ScoreSent) -> None:
    grade: Any = Grade()
    grade.set_score_given(round(row.given, DIGITS)).set_score_maximum(row.of)
    grade.set_timestamp(row.at.isoformat(timespec="milliseconds"))
    grade.set_activity_progress("Completed").set_grading_progress("FullyGraded")
    grade.set_user_id(row.account.subject)
    service = {"scope": [SCORE], "lineitem": row.link.scores_url}
    AssignmentsGradesService(connector, cast(Any, service)).put_grade(grade)


def send_again(link_ids: list[int]) -> int:
    """Put what a platform refused back among what is due; how many."""
    refused = ScoreSent.objects.filter(link__in=link_ids, state=ScoreState.REFUSED)
    return refused.update(state=ScoreState.DUE, next_at=clock.now(), tries=0, says="")

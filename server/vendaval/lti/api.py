"""Endpoints of tutors about groups that come from a platform."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.groups.models import Group
from vendaval.groups.queries import own_group
from vendaval.people.permissions import current_user, signed_in

from . import jobs
from .models import PlatformContext, ScoreSent, ScoreState
from .names import fill_group
from .schemas import GroupFilledOut, GroupPlatformOut, SentScoreOut
from .scores import send_again

router = Router(auth=signed_in, tags=["groups"])
AT = "/groups/{int:group_id}/platform"
MOST = 500


def _context(group: Group) -> PlatformContext | None:
    return PlatformContext.objects.select_related("platform").filter(group=group).first()


def _out(group: Group) -> GroupPlatformOut:
    found = _context(group)
    if found is None:
        return GroupPlatformOut(name="", fills=False, scores=[], refused=0)
    rows = ScoreSent.objects.filter(link__context=found).select_related(
        "account__person", "link__assignment__test", "link__task"
    )
    refused = rows.filter(state=ScoreState.REFUSED).count()
    return GroupPlatformOut(
        name=found.platform.name,
        fills=found.members_url != "",
        scores=[_score(row) for row in rows.order_by("-at", "-pk")[:MOST]],
        refused=refused,
    )


def _score(row: ScoreSent) -> SentScoreOut:
    link = row.link
    test, task = link.assignment, link.task
    return SentScoreOut(
        work=test.test.title if test is not None else task.title if task is not None else "",
        learner=row.account.person.display_name,
        given=row.given,
        of=row.of,
        state=ScoreState(row.state),
        says=row.says,
        sent_at=row.sent_at if row.state == ScoreState.SENT else None,
        next_at=row.next_at if row.state == ScoreState.DUE else None,
    )


@router.get(AT, response=GroupPlatformOut, operation_id="get_group_platform")
def get_group_platform(request: HttpRequest, group_id: int) -> GroupPlatformOut:
    """Where a group comes from, and the scores that went back there."""
    return _out(own_group(current_user(request), group_id, "get_group_platform"))


@router.post(f"{AT}/again", response=GroupPlatformOut, operation_id="send_scores_again")
def send_scores_again(request: HttpRequest, group_id: int) -> GroupPlatformOut:
    """Send scores again that the platform refused."""
    group = own_group(current_user(request), group_id, "send_scores_again")
    found = _context(group)
    if found is not None:
        send_again(list(found.links.values_list("pk", flat=True)))
        jobs.begin_due()
    return _out(group)


@router.post(f"{AT}/fill", response=GroupFilledOut, operation_id="fill_from_platform")
def fill_from_platform(request: HttpRequest, group_id: int) -> GroupFilledOut:
    """Take everybody in who learns in the platform's course."""
    group = own_group(current_user(request), group_id, "fill_from_platform")
    found = _context(group)
    return GroupFilledOut(taken=0 if found is None else fill_group(found))

"""Talks between a learner's guardian and the learner's tutors."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from datetime import datetime

from django.db import transaction
from django.db.models import Exists, OuterRef, Subquery, Window
from django.db.models.functions import RowNumber
from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Router
from pydantic import BaseModel

from vendaval.groups.models import Enrolment
from vendaval.groups.queries import related_enrolment, relations_to, taught_by
from vendaval.notices.actions import tell
from vendaval.notices.models import NoticeKind
from vendaval.people.models import Guardianship, User
from vendaval.people.permissions import current_user, signed_in
from vendaval.people.policies import Relation, require
from vendaval.shared import clock
from vendaval.shared.acknowledged import note_acknowledged
from vendaval.shared.errors import NotFound, Unprocessable

from .access import tutors_of
from .models import Talk, TalkPost
from .schemas import Strict, Text

router = Router(auth=signed_in, tags=["threads"])
MOST_POSTS, MOST_WAITING = 200, 50
TALKS = "/learners/{int:enrolment_id}/talks"


class TalkPostOut(BaseModel):
    id: int
    author: str
    own: bool
    text: str
    at: datetime


class TalkOut(BaseModel):
    """What a guardian and the tutors wrote. guardian, name: whose it is; waits: for an answer."""

    guardian: int
    name: str
    waits: bool
    posts: list[TalkPostOut]


class TalksOut(BaseModel):
    """Talks about a learner: a guardian's own, or, for a tutor, each guardian's."""

    learner: str
    tutors: list[str]
    talks: list[TalkOut]


class TalkIn(Strict):
    """guardian: to whom a tutor writes; null for a guardian, who writes to the tutors."""

    text: Text
    guardian: int | None = None


class WaitingTalkOut(BaseModel):
    """A guardian who waits for an answer. learner: the number of the enrolment."""

    learner: int
    learner_name: str
    guardian_name: str
    since: datetime
    text: str


class WaitingTalksOut(BaseModel):
    talks: list[WaitingTalkOut]


def _guardians_of(enrolment: Enrolment) -> dict[int, User]:
    held = Guardianship.objects.filter(learner=enrolment.person_id, until=None)
    return {row.guardian_id: row.guardian for row in held.select_related("guardian")}


def talks_out(enrolment: Enrolment, reader: User) -> TalksOut:
    """The talks about a learner that somebody may read."""
    teaches = Relation.GROUP in relations_to(reader, enrolment)
    guardians = _guardians_of(enrolment)
    whose = guardians if teaches else {reader.pk: reader}
    rows = Talk.objects.filter(enrolment=enrolment, guardian__in=whose)
    kept = {row.guardian_id: row for row in rows}
    posts = _latest_posts(kept.values())
    return TalksOut(
        learner=enrolment.person.display_name,
        tutors=[tutor.display_name for tutor in tutors_of(enrolment).order_by("display_name")],
        talks=[
            _talk(person, kept.get(pk), posts.get(pk, []), reader) for pk, person in whose.items()
        ],
    )


def _latest_posts(talks: Iterable[Talk]) -> dict[int, list[TalkPost]]:
    """By guardian the latest that was written, the oldest of it first; of each talk so many."""
    place = Window(RowNumber(), partition_by="talk", order_by="-pk")
    rows = TalkPost.objects.filter(talk__in=list(talks)).annotate(place=place)
    found: dict[int, list[TalkPost]] = defaultdict(list)
    for post in rows.filter(place__lte=MOST_POSTS).select_related("author", "talk").order_by("pk"):
        found[post.talk.guardian_id].append(post)
    return found


def _talk(guardian: User, talk: Talk | None, posts: Sequence[TalkPost], reader: User) -> TalkOut:
    return TalkOut(
        guardian=guardian.pk,
        name=guardian.display_name,
        waits=talk is not None and talk.waits_since is not None,
        posts=[
            TalkPostOut(
                id=post.pk,
                author=post.author.display_name if post.author is not None else "",
                own=post.author_id == reader.pk,
                text=post.text,
                at=post.at,
            )
            for post in posts
        ],
    )


def write(enrolment: Enrolment, author: User, body: TalkIn) -> None:
    """Say something; the other side is told."""
    teaches = Relation.GROUP in relations_to(author, enrolment)
    guardians = _guardians_of(enrolment)
    guardian = guardians.get(body.guardian if body.guardian is not None else author.pk)
    from_guardian = guardian is not None and guardian.pk == author.pk
    if guardian is None or not (teaches or from_guardian):
        raise NotFound(gettext("This person isn’t a guardian of this learner."))
    tutors = list(tutors_of(enrolment))
    if from_guardian and not tutors:
        raise Unprocessable(gettext("This learner has no tutor now."))
    now, name = clock.now(), enrolment.person.display_name
    with transaction.atomic():
        talk, _ = Talk.objects.get_or_create(enrolment=enrolment, guardian=guardian)
        post = talk.posts.create(author=author, text=body.text.strip(), at=now)
        transaction.on_commit(lambda: note_acknowledged("talk", post.pk, person=author.pk))
        talk.waits_since = (talk.waits_since or now) if from_guardian else None
        talk.save(update_fields=["waits_since"])
        home = "/tutor" if from_guardian else "/guardian"
        people = tutors if from_guardian else [guardian]
        title = gettext("{author} writes about {name}").format(
            author=author.display_name, name=name
        )
        path = f"{home}/learners/{enrolment.pk}/talk"
        tell(people, NoticeKind.TALK, title, path, body.text[:200])


@router.get(TALKS, response=TalksOut, operation_id="list_talks")
def list_talks(request: HttpRequest, enrolment_id: int) -> TalksOut:
    """What guardian and tutors write to one another about a learner."""
    user = current_user(request)
    return talks_out(related_enrolment(user, enrolment_id, "list_talks"), user)


@router.post(TALKS, response=TalksOut, operation_id="write_talk")
def write_talk(request: HttpRequest, enrolment_id: int, body: TalkIn) -> TalksOut:
    user = current_user(request)
    found = related_enrolment(user, enrolment_id, "write_talk")
    write(found, user, body)
    return talks_out(found, user)


@router.get("/talks", response=WaitingTalksOut, operation_id="list_waiting_talks")
def list_waiting_talks(request: HttpRequest) -> WaitingTalksOut:
    """Guardians of learners of my groups who wait for an answer, the longest first."""
    user = current_user(request)
    require("list_waiting_talks", user.roles, Relation.OWN)
    last = TalkPost.objects.filter(talk=OuterRef("pk")).order_by("-pk").values("text")
    linked = Guardianship.objects.filter(
        guardian=OuterRef("guardian"), learner=OuterRef("enrolment__person"), until=None
    )
    rows = (
        Talk.objects.filter(
            Exists(linked),
            enrolment__groups__group__in=taught_by(user).values("pk"),
            enrolment__groups__until=None,
            enrolment__until=None,
        )
        .exclude(waits_since=None)
        .select_related("enrolment__person", "guardian")
        .annotate(last=Subquery(last[:1]))
        .order_by("waits_since")
        .distinct()[:MOST_WAITING]
    )
    return WaitingTalksOut(
        talks=[
            WaitingTalkOut(
                learner=row.enrolment_id,
                learner_name=row.enrolment.person.display_name,
                guardian_name=row.guardian.display_name,
                since=row.waits_since or clock.now(),
                text=row.last[:140],
            )
            for row in rows
        ]
    )

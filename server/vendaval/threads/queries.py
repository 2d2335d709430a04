"""Threads as lists and as pages, for whoever reads them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence

from django.db.models import Count, Exists, F, Max, OuterRef, Q, QuerySet, Subquery
from django.utils.translation import gettext

from vendaval.bank.snapshot import version_of
from vendaval.delivery.disclosure import EVERYTHING, OUTCOME, SILENT
from vendaval.delivery.schemas import PlaceOut, QuestionOut
from vendaval.groups.models import Group
from vendaval.groups.writing import courses_written_by
from vendaval.people.models import User
from vendaval.people.policies import Relation, may
from vendaval.shared.markdown import to_html
from vendaval.work.activity import activities
from vendaval.work.models import Try, TryKind, Visibility
from vendaval.work.questions import shown_in_test, tries_of, waits_elsewhere
from vendaval.work.replies import first_responses, shown_to_others, working_area
from vendaval_core.items.versions import Version

from .access import loaded_threads, related_thread
from .actions import mark_seen
from .models import Post, Seen, Thread, ThreadKind, ThreadState
from .schemas import GivenOut, PostOut, ThreadLineOut, ThreadOut, ThreadsOut

PAGE = 30
MOST_POSTS = 200
MOST_TRIES = 300
MOST_GIVEN = 6
LAST_LETTERS = 140


def _waiting(threads: QuerySet[Thread]) -> QuerySet[Thread]:
    return threads.filter(state=ThreadState.OPEN)


def help_of_group(group: Group) -> QuerySet[Thread]:
    """Help that members of a group ask their tutor for, and marks they contest."""
    return Thread.objects.filter(
        kind__in=(ThreadKind.HELP, ThreadKind.CONTEST),
        to_tutor=True,
        enrolment__groups__group=group,
        enrolment__groups__until=None,
        enrolment__until=None,
    )


def waiting_for_tutor(group: Group) -> int:
    """Threads of a group that want their tutor's answer."""
    return _waiting(help_of_group(group)).count()


def threads_of(person: User) -> QuerySet[Thread]:
    """Threads that a learner began or was asked in."""
    began = Q(enrolment__person=person)
    asked = Q(asked__person=person)
    return loaded_threads().filter(began | asked).distinct()


def inbox_of(person: User) -> QuerySet[Thread]:
    """Help that a tutor is asked for by present members of their groups, and marks contested."""
    groups = Group.objects.filter(tutors__person=person, tutors__until=None)
    mine = Thread.objects.filter(
        kind__in=(ThreadKind.HELP, ThreadKind.CONTEST),
        to_tutor=True,
        enrolment__groups__group__in=groups,
        enrolment__groups__until=None,
        enrolment__until=None,
    )
    return loaded_threads().filter(pk__in=mine.values("pk"))


def faults_of(person: User) -> QuerySet[Thread]:
    """Reports of faults in the courses that somebody writes for."""
    written = courses_written_by(person).values("pk")
    return loaded_threads().filter(kind=ThreadKind.FAULT, enrolment__course__in=written)


def thread_list(
    person: User,
    rows: QuerySet[Thread],
    *,
    state: ThreadState | None,
    topic: str | None,
    older: int | None,
) -> ThreadsOut:
    """A page of threads: those that wait longest first where waiting is asked for, else the
    latest first."""
    if topic is not None:
        rows = rows.filter(topic__key=topic)
    if state is not None:
        rows = rows.filter(state=state)
    if older is not None:
        rows = rows.filter(pk__gt=older) if state == ThreadState.OPEN else rows.filter(pk__lt=older)
    order = "pk" if state == ThreadState.OPEN else "-pk"
    page = list(_with_counts(rows, person).order_by(order)[: PAGE + 1])
    same = _same(page)
    return ThreadsOut(
        threads=[line_out(row, person, same) for row in page[:PAGE]],
        older=page[PAGE - 1].pk if len(page) > PAGE else None,
    )


def _with_counts(rows: QuerySet[Thread], person: User) -> QuerySet[Thread]:
    posts = Post.objects.filter(thread=OuterRef("pk"))
    newest = posts.order_by("-pk")
    counts = posts.order_by().values("thread").annotate(n=Count("pk"), last=Max("pk"))
    seen = Seen.objects.filter(
        thread=OuterRef("pk"), person=person, post__gte=OuterRef("newest_post")
    )
    return rows.annotate(
        post_count=Subquery(counts.values("n")),
        newest_post=Subquery(counts.values("last")),
        last_text=Subquery(newest.values("text")[:1]),
    ).annotate(is_seen=Exists(seen))


def _same(rows: Iterable[Thread]) -> Counter[int]:
    families = {row.family_id for row in rows}
    open_ = Thread.objects.filter(family__in=families, kind=ThreadKind.HELP)
    counts = _waiting(open_).values_list("family").annotate(n=Count("pk")).order_by()
    return Counter(dict(counts))


def line_out(row: Thread, person: User, same: Counter[int]) -> ThreadLineOut:
    """A thread in a list, its counts annotated."""
    shown = row.presentation
    text = str(getattr(row, "last_text", "") or "")
    own = row.enrolment.person_id == person.pk
    hidden = row.kind == ThreadKind.FAULT and not own
    return ThreadLineOut(
        id=row.pk,
        kind=ThreadKind(row.kind),
        state=ThreadState(row.state),
        title=version_of(shown.revision, shown.seed, shown.order).title,
        topic=PlaceOut(key=row.topic.key, title=row.topic.title),
        course=row.enrolment.course.key,
        asker="A learner" if hidden else row.enrolment.person.display_name,
        last=text if len(text) <= LAST_LETTERS else f"{text[:LAST_LETTERS].rstrip()}…",
        posts=int(getattr(row, "post_count", 0) or 0),
        unread=not getattr(row, "is_seen", True),
        waits_since=row.waits_since,
        opened_at=row.opened_at,
        same=same[row.family_id] if row.kind == ThreadKind.HELP else 0,
    )


def thread_page(person: User, thread_id: int) -> ThreadOut:
    """A thread with its question, as much of it as may be told to who reads it."""
    thread, relations = related_thread(person, thread_id, "get_thread")
    posts = list(thread.posts.select_related("author").order_by("pk")[:MOST_POSTS])
    question, version, given = _question(thread, relations, posts)
    tries, _ = tries_of(thread.presentation)
    shows_working = thread.shows_working or Relation.OWN in relations
    if posts:
        mark_seen(person, thread, posts[-1].pk)
    row = _with_counts(loaded_threads().filter(pk=thread.pk), person).get()
    fault = thread.kind == ThreadKind.FAULT and Relation.COURSE in relations
    met_by, others = _others(thread, version) if fault else (None, [])
    operations = ("reply_thread", "settle_thread")
    can = [op for op in operations if any(may(op, person.roles, one) for one in relations)]
    told = relations & {Relation.GROUP, Relation.COURSE}
    if told:
        can.append("quote_solution")
    return ThreadOut(
        line=line_out(row, person, _same([thread])),
        can=[] if thread.state == ThreadState.SETTLED else can,
        question=question,
        given=given,
        working=working_area(tries) if shows_working else None,
        says=thread.says,
        posts=[_post_out(post, person, thread) for post in posts],
        met_by=met_by,
        others=others,
        regrade_at=_regrade_at(thread) if Relation.GROUP in relations else None,
        edit_at=_edit_at(thread) if Relation.COURSE in relations else None,
    )


def _regrade_at(thread: Thread) -> str | None:
    """Where a tutor regrades the question whose mark is contested: in the test it was asked in."""
    shown = thread.presentation
    if thread.kind != ThreadKind.CONTEST or not activities().of(shown.run).contestable:
        return None
    given = shown.run.attempt.assignment
    if given is None:
        return None
    return f"/tutor/work/{given.group_id}/{given.pk}/regrade/{shown.revision.family.key}"


def _edit_at(thread: Thread) -> str:
    return f"/author/bank/{thread.enrolment.course.key}/{thread.presentation.revision.family.key}"


def _question(
    thread: Thread, relations: set[Relation], posts: Sequence[Post]
) -> tuple[QuestionOut, Version, dict[str, str] | None]:
    """Tutor and author see all of it. The asker sees what is told them anyway, once no version
    waits, or what was quoted, and nothing of it while it is in a test still open for them; a
    classmate the question and what was sent with it."""
    shown, quoted = thread.presentation, any(post.quotes_solution for post in posts)
    in_test = Relation.OWN in relations and shown_in_test(thread.enrolment, shown)
    if relations & {Relation.GROUP, Relation.COURSE} or (
        Relation.OWN in relations
        and not in_test
        and (
            quoted
            or (
                shown.closed_at is not None
                and shown.visibility == Visibility.ALL
                and not waits_elsewhere(thread.enrolment, shown)
            )
        )
    ):
        disclosure = EVERYTHING
    else:
        disclosure = SILENT if in_test or shown.visibility == Visibility.NOTHING else OUTCOME
    told = disclosure is EVERYTHING
    sent = thread.shows_answer or Relation.OWN in relations
    question, version, given = shown_to_others(shown, disclosure, with_answer=sent and told)
    if sent and not told:
        given = first_responses(*tries_of(shown))
    return question, version, given if sent else None


def _post_out(post: Post, person: User, thread: Thread) -> PostOut:
    hidden = thread.kind == ThreadKind.FAULT and post.author_id == thread.enrolment.person_id
    return PostOut(
        id=post.pk,
        author="A learner"
        if hidden and post.author_id != person.pk
        else post.author.display_name or gettext("Somebody who has left"),
        mine=post.author_id == person.pk,
        html=to_html(post.text),
        quotes_solution=post.quotes_solution,
        at=post.at,
    )


def _others(thread: Thread, version: Version) -> tuple[int, list[GivenOut]]:
    """How many others met the version, and what they answered first."""
    shown = thread.presentation
    rows = Try.objects.filter(
        presentation__revision=shown.revision_id,
        presentation__seed=shown.seed,
        first=True,
        kind=TryKind.ANSWER,
        number=1,
    ).exclude(enrolment=thread.enrolment_id)
    said = Counter[str]()
    responses = list(rows.order_by("-pk").values_list("response", F("enrolment"))[:MOST_TRIES])
    for response, _ in responses:
        words = [key.answer_words(response.get(key.id, "")) for key in version.parts]
        said["; ".join(words)] += 1
    people = len({enrolment for _, enrolment in responses})
    return people, [GivenOut(words=w, count=n) for w, n in said.most_common(MOST_GIVEN)]

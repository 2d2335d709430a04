"""Asking, answering and settling. Everyone in a thread gets a message."""

from __future__ import annotations

from collections.abc import Iterable

from django.db import transaction
from django.utils.translation import gettext

from vendaval.bank.snapshot import version_of
from vendaval.groups.writing import writers_of
from vendaval.notices.actions import tell
from vendaval.notices.models import NoticeKind
from vendaval.people.models import User
from vendaval.people.policies import Relation
from vendaval.shared import clock
from vendaval.shared.acknowledged import note_acknowledged
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval.work.actions import note_told
from vendaval.work.activity import activities
from vendaval.work.models import Mark, Presentation, Visibility
from vendaval.work.questions import find_presentation

from .access import classmates_of, related_thread, tutors_of
from .models import Asked, Post, Seen, Thread, ThreadKind, ThreadState
from .schemas import AskHelpIn, ContestIn, ReplyIn, ReportFaultIn

MOST_OPEN = 30


def title_of(thread: Thread) -> str:
    """The title of the question that a thread is about."""
    shown = thread.presentation
    return version_of(shown.revision, shown.seed, shown.order).title


def _open(
    question: Presentation,
    kind: ThreadKind,
    *,
    shows_answer: bool,
    shows_working: bool,
    to_tutor: bool,
) -> Thread:
    enrolment, now = question.run.enrolment, clock.now()
    waiting = Thread.objects.filter(enrolment=enrolment, kind=kind).exclude(
        state=ThreadState.SETTLED
    )
    if waiting.count() >= MOST_OPEN:
        raise Conflict(
            gettext("{most_open} of your questions are open. Close some of them first.").format(
                most_open=MOST_OPEN
            ),
            code="too_many_open",
        )
    return Thread.objects.create(
        enrolment=enrolment,
        kind=kind,
        presentation=question,
        family=question.revision.family,
        topic=question.revision.family.topic,
        shows_answer=shows_answer,
        shows_working=shows_working,
        to_tutor=to_tutor,
        opened_at=now,
        waits_since=now,
    )


def ask_help(person: User, course: str, question_id: int, body: AskHelpIn) -> Thread:
    """Ask the tutor, classmates, or both about a question."""
    question = find_presentation(person, course, question_id, "ask_help")
    enrolment = question.run.enrolment
    if question.answers_held:
        raise Conflict(
            gettext("You can ask for help after the right answer is shown."), code="held_back"
        )
    chosen = list(classmates_of(enrolment).filter(pk__in=body.classmates))
    tutors = list(tutors_of(enrolment)) if body.to_tutor else []
    if len(chosen) < len(set(body.classmates)):
        raise Unprocessable(
            gettext("You can’t ask one of these people."), fields={"classmates": "unknown"}
        )
    if not chosen and not tutors:
        raise Unprocessable(
            gettext("Choose who to ask."), fields={"to_tutor": gettext("choose somebody")}
        )
    with transaction.atomic():
        thread = _open(
            question,
            ThreadKind.HELP,
            shows_answer=body.shows_answer,
            shows_working=body.shows_working,
            to_tutor=body.to_tutor,
        )
        Asked.objects.bulk_create(Asked(thread=thread, person=one) for one in chosen)
        _post(thread, person, body.text)
        title = gettext("{person} asks about “{title_of}”").format(
            person=person.display_name, title_of=title_of(thread)
        )
        _tell(thread, [*tutors, *chosen], person, NoticeKind.HELP_ASKED, title, body.text)
    return thread


def report_fault(person: User, course: str, question_id: int, body: ReportFaultIn) -> Thread:
    """Tell the course's authors that a question seems faulty, with the version."""
    question = find_presentation(person, course, question_id, "report_fault")
    with transaction.atomic():
        thread = _open(
            question, ThreadKind.FAULT, shows_answer=True, shows_working=False, to_tutor=False
        )
        _post(thread, person, body.text)
        title = gettext("Somebody reported “{title_of}” as faulty").format(
            title_of=title_of(thread)
        )
        authors = writers_of(question.run.enrolment.course)
        _tell(thread, authors, person, NoticeKind.FAULT, title, body.text)
    return thread


def _is_marked(question: Presentation) -> bool:
    """Whether a question of a test was handed in and has a mark: during the test, contesting it
    would be a way to have it answered."""
    handed_in = question.run.attempt.handed_in_at is not None
    return (
        handed_in and Mark.objects.filter(tried__presentation=question).exclude(share="").exists()
    )


def contest(person: User, course: str, question_id: int, body: ContestIn) -> Thread:
    """Contest the mark of a question of a test: it waits in the tutor's inbox, with the answer and
    the working. Once for a question, as long as the tutor has not settled it."""
    question = find_presentation(person, course, question_id, "contest_mark")
    enrolment = question.run.enrolment
    contestable = activities().of(question.run).contestable
    if not contestable or not _is_marked(question) or question.visibility == Visibility.NOTHING:
        raise Conflict(gettext("There is no mark to question here yet."), code="no_mark")
    tutors = list(tutors_of(enrolment))
    if not tutors:
        raise Conflict(
            gettext("You aren’t in a group with a tutor who could answer."), code="nobody"
        )
    mine = Thread.objects.filter(presentation=question, kind=ThreadKind.CONTEST)
    if mine.exclude(state=ThreadState.SETTLED).exists():
        raise Conflict(
            gettext("You’ve already questioned this mark. Wait for the reply."), code="contested"
        )
    with transaction.atomic():
        thread = _open(
            question, ThreadKind.CONTEST, shows_answer=True, shows_working=True, to_tutor=True
        )
        _post(thread, person, body.text)
        title = gettext("{person} thinks the mark of “{title_of}” is wrong").format(
            person=person.display_name, title_of=title_of(thread)
        )
        _tell(thread, tutors, person, NoticeKind.HELP_ASKED, title, body.text)
    return thread


def reply(person: User, thread_id: int, body: ReplyIn) -> Thread:
    """Write in a thread. An answer by somebody else is help while the question waits."""
    thread, relations = related_thread(person, thread_id, "reply_thread")
    own = Relation.OWN in relations
    if thread.state == ThreadState.SETTLED:
        raise Conflict(gettext("This is closed. Ask again about the question."), code="settled")
    if body.quotes_solution and not relations & {Relation.GROUP, Relation.COURSE}:
        raise Unprocessable(
            gettext("Only a tutor can send the worked solution."),
            fields={"quotes_solution": "never"},
        )
    if not own and thread.kind == ThreadKind.HELP:
        note_told(thread.presentation_id)
    with transaction.atomic():
        _post(thread, person, body.text, quotes_solution=body.quotes_solution)
        thread.state = ThreadState.OPEN if own else ThreadState.ANSWERED
        thread.waits_since = clock.now() if own else None
        thread.save(update_fields=["state", "waits_since"])
        title = gettext("{named} wrote about “{title_of}”").format(
            named=_named(person, thread), title_of=title_of(thread)
        )
        _tell(thread, _everyone(thread), person, NoticeKind.ANSWERED, title, body.text)
    return thread


def settle(person: User, thread_id: int, says: str) -> Thread:
    """Close a thread, with what became of it."""
    thread, _ = related_thread(person, thread_id, "settle_thread")
    if thread.state == ThreadState.SETTLED:
        return thread
    with transaction.atomic():
        thread.state, thread.says = ThreadState.SETTLED, says.strip()
        thread.settled_at, thread.waits_since = clock.now(), None
        thread.save(update_fields=["state", "says", "settled_at", "waits_since"])
        title = gettext("“{title_of}” is closed").format(title_of=title_of(thread))
        _tell(thread, _everyone(thread), person, NoticeKind.SETTLED, title, says)
    return thread


def mark_seen(person: User, thread: Thread, post: int) -> None:
    """A person has seen a thread up to a post."""
    kept = {"post": post}
    Seen.objects.update_or_create(thread=thread, person=person, defaults=kept)


def _post(thread: Thread, author: User, text: str, *, quotes_solution: bool = False) -> Post:
    post = Post.objects.create(
        thread=thread,
        author=author,
        text=text.strip(),
        quotes_solution=quotes_solution,
        at=clock.now(),
    )
    transaction.on_commit(lambda: note_acknowledged("post", post.pk, person=author.pk))
    mark_seen(author, thread, post.pk)
    return post


def _named(person: User, thread: Thread) -> str:
    """Authors work without names: to them a learner is a learner."""
    if thread.kind == ThreadKind.FAULT and person.pk == thread.enrolment.person_id:
        return gettext("The learner")
    return person.display_name


def _everyone(thread: Thread) -> list[User]:
    asker = thread.enrolment
    if thread.kind == ThreadKind.FAULT:
        return [asker.person, *writers_of(asker.course)]
    tutors = tutors_of(asker) if thread.to_tutor else User.objects.none()
    asked = User.objects.filter(asked_in__thread=thread, is_active=True)
    return [asker.person, *tutors, *asked]


def _tell(
    thread: Thread, people: Iterable[User], by: User, kind: NoticeKind, title: str, text: str
) -> None:
    told = {one.pk: one for one in people if one.pk != by.pk}
    tell(told.values(), kind, title, f"/threads/{thread.pk}", text[:200])

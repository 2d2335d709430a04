"""Threads of the demo: asked, answered, settled, and reported."""

from __future__ import annotations

from datetime import datetime, timedelta

from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.threads import actions
from vendaval.threads.models import Thread
from vendaval.threads.schemas import AskHelpIn, ReplyIn, ReportFaultIn
from vendaval.work.models import Presentation

COURSE = "inshore"


def _missed(person: User, topic: str | None = None) -> int:
    """A closed question of somebody that was not right at once, the latest."""
    rows = Presentation.objects.filter(
        run__enrolment__person=person, run__enrolment__course__key=COURSE, closed_at__isnull=False
    )
    if topic is not None:
        rows = rows.filter(revision__family__topic__key=topic)
    missed = rows.filter(tries__reply__verdict__iexact="wrong").order_by("-pk").first()
    return (missed or rows.latest("pk")).pk


def _ask(
    person: User, question: int, text: str, at: datetime, *, also: tuple[User, ...] = ()
) -> Thread:
    body = AskHelpIn(
        text=text,
        to_tutor=True,
        classmates=[one.pk for one in also],
        shows_answer=True,
        shows_working=False,
    )
    with clock.held_by(lambda: at):
        return actions.ask_help(person, COURSE, question, body)


def _reply(person: User, thread: Thread, text: str, at: datetime, *, quotes: bool = False) -> None:
    with clock.held_by(lambda: at):
        actions.reply(person, thread.pk, ReplyIn(text=text, quotes_solution=quotes))


def ask_around(
    ines: User, classmates: dict[str, User], staff: dict[str, User], now: datetime
) -> None:
    """Two who wait, one answered, one settled, and a report to the author."""
    clara = staff["clara"]
    simao, marta, gil, alda = (classmates[name] for name in ("simao", "marta", "gil", "alda"))
    thread = _ask(
        simao,
        _missed(simao, "height-at-a-time"),
        "I take the twelfths from the table, and still it comes out wrong. From where do I count?",
        now - timedelta(days=2, hours=4),
    )
    _reply(
        clara,
        thread,
        "From low water. Write down the hours since low water first, then add up the twelfths as "
        "far as you are.",
        now - timedelta(days=2, hours=1),
        quotes=True,
    )
    with clock.held_by(lambda: now - timedelta(days=1, hours=20)):
        actions.settle(simao, thread.pk, "I had counted from high water.")
    thread = _ask(
        alda,
        _missed(alda, "compass-errors"),
        "Is deviation added when it is west?",
        now - timedelta(days=1, hours=3),
    )
    _reply(
        clara,
        thread,
        "From compass to true, east is added and west is taken off: $T = C + E - W$.",
        now - timedelta(hours=22),
    )
    _ask(
        marta,
        _missed(marta),
        "I understand the worked solution, but not where I went wrong. Can you see it?",
        now - timedelta(hours=26),
    )
    _ask(
        ines,
        _missed(ines, "height-at-a-time"),
        "I was quite sure of this one. What did I leave out?",
        now - timedelta(hours=3),
        also=(alda,),
    )
    with clock.held_by(lambda: now - timedelta(hours=7)):
        text = "I think another answer is right too. Please check this question."
        actions.report_fault(gil, COURSE, _missed(gil, "who-gives-way"), ReportFaultIn(text=text))

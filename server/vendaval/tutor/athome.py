"""What a guardian sees beside the levels: what was set and what came of it, and how to help."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from django.utils import timezone
from django.utils.translation import gettext, gettext_noop

from vendaval.assigning.learner_work import own_tasks
from vendaval.exams.models import Assignment
from vendaval.exams.taking.queries import tests_page
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning
from vendaval.levels.queries import levels_before
from vendaval.shared import clock
from vendaval.today.lines import is_met
from vendaval.today.schemas import TopicLineOut
from vendaval_core.mastery.home_help import AtHome, Rise, how_to_help

from .overview import LATELY
from .schemas import SetLineOut

MOST = 12
WAITING = {"not_begun", "under_way", "late"}
STATES = {
    "not_open": gettext_noop("not open yet"),
    "not_begun": gettext_noop("not started"),
    "under_way": gettext_noop("in progress"),
    "late": "late",
    "handed_in": gettext_noop("handed in"),
    "waiting": gettext_noop("waiting to be marked"),
    "marked": "marked",
    "done": "done",
    "done_late": gettext_noop("done late"),
    "closed": gettext_noop("closed, not done"),
}


def set_for(enrolment: Enrolment, *, linked: bool = False) -> list[SetLineOut]:
    """Tests and other work that was set, what waits first; results as far as they may be told.
    linked: whether a tutor gets the way to its attempts."""
    groups = {}
    if linked:
        mine = Assignment.objects.filter(attempts__enrolment=enrolment)
        groups = {f"given-{pk}": (group, pk) for pk, group in mine.values_list("pk", "group")}
    found = [
        SetLineOut(
            title=test.title,
            state=test.state,
            says=gettext(STATES[test.state]),
            due=test.due or test.closes,
            result=test.counts or "",
            at=_attempts_at(groups.get(test.ref), enrolment),
        )
        for test in tests_page(enrolment).tests
    ]
    found += [
        SetLineOut(
            title=task.title,
            state=task.state,
            says=gettext(STATES[task.state]),
            due=task.due or task.closes,
            result=task.made,
        )
        for task in own_tasks(enrolment).tasks
    ]
    far = datetime.max.replace(tzinfo=timezone.get_current_timezone())
    found.sort(key=lambda one: (one.state not in WAITING, one.due or far))
    return found[:MOST]


def _attempts_at(given: tuple[int, int] | None, enrolment: Enrolment) -> str:
    if given is None:
        return ""
    return f"/tutor/work/{given[0]}/{given[1]}/results?learner={enrolment.pk}"


def help_for(
    learning: Learning, lines: Sequence[TopicLineOut], work: Sequence[SetLineOut], misses: int
) -> list[str]:
    """Two sentences on how somebody at home can help."""
    now, last = clock.now(), learning.row.last_answer_at
    due = next(((one.title, one.due) for one in work if one.state in WAITING and one.due), None)
    below = [line for line in lines if line.reading.level is not None and not is_met(line)]
    below.sort(key=lambda line: (line.reading.level or 0) - line.reading.target)
    home = AtHome(
        name=learning.enrolment.person.display_name.split()[0],
        late=[one.title for one in work if one.state == "late"],
        due=(due[0], gettext("on {localtime:%A}").format(localtime=timezone.localtime(due[1])))
        if due and due[1]
        else None,
        days_away=None if last is None else (now - last).total_seconds() / 86400,
        misses=misses,
        rises=_rises(learning, lines, now),
        met=[line.title for line in lines if is_met(line)],
        weakest=below[0].title if below else None,
    )
    return list(how_to_help(home))


def _rises(learning: Learning, lines: Sequence[TopicLineOut], now: datetime) -> list[Rise]:
    """Levels of two weeks ago beside those of now, where both were known."""
    own = learning.enrolment.pk
    before = levels_before([own], now - LATELY)
    known = {line.key: line.reading.level for line in lines if line.reading.level is not None}
    return [
        Rise(topic.title, before[own, topic.id], known[topic.key])
        for topic in learning.bank.topics
        if (own, topic.id) in before and topic.key in known
    ]

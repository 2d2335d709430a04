"""The record as open learning records: statements of xAPI 1.0.3.

Verbs and activity types are those of the ADL vocabulary. The id of a statement is made from ours,
so that the same thing told twice is one statement.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any
from uuid import NAMESPACE_URL, uuid5

from django.db.models import Q, QuerySet

from vendaval.exams.models import Attempt
from vendaval.exams.taking.queries import told_of
from vendaval.groups.models import Enrolment
from vendaval.levels.models import LevelRecord, TargetMet
from vendaval.people.addresses import site_for
from vendaval.work.models import HelpKind, HelpOpened, Mark, Run, Try

from .rows import RecordRow, record_rows

VERSION = "1.0.3"
VERBS = "http://adlnet.gov/expapi/verbs/"
TYPES = "http://adlnet.gov/expapi/activities/"
EXTENSIONS = "urn:vendaval:xapi:"
LANGUAGE = "en-GB"

Statement = dict[str, Any]


def statements(enrolment: Enrolment) -> Iterator[Statement]:
    """Everything of a learner in a course: runs begun, tries, sections opened, levels, targets met,
    attempts whose points may be told."""
    teller = Teller(enrolment)
    runs = Run.objects.filter(enrolment=enrolment, rehearsal=False).order_by("started_at", "pk")
    for run in runs.iterator(500):
        yield teller.run(run)
    for row, tried in record_rows(enrolment):
        yield teller.tried(row, tried)
    read = HelpOpened.objects.filter(enrolment=enrolment, kind=HelpKind.STUDY).order_by("at", "pk")
    for help_ in read.iterator(500):
        yield teller.studied(help_)
    mine = Q(enrolment=enrolment)
    for level in LevelRecord.objects.filter(mine).select_related("topic").order_by("at", "pk"):
        yield teller.level(level)
    for met in TargetMet.objects.filter(mine).select_related("topic").order_by("at", "pk"):
        yield teller.met(met)
    attempts = counting_attempts().filter(mine).exclude(handed_in_at=None)
    for attempt in attempts.select_related("test").order_by("handed_in_at", "pk"):
        told = teller.attempt(attempt)
        if told is not None:
            yield told


def counting_attempts() -> QuerySet[Attempt]:
    """Attempts that are part of a record: none of mirrors, and none to try things out in."""
    return Attempt.objects.filter(test__mirror_of=None, test__rehearsal=False)


def duration(seconds: float) -> str:
    """Seconds as ISO 8601 has a duration, to the hundredth."""
    return f"PT{seconds:.2f}S".replace(".00S", "S")


class Teller:
    """Puts statements about one learner in one course together."""

    def __init__(self, enrolment: Enrolment) -> None:
        self.course, self.person = enrolment.course, enrolment.person_id
        site = site_for(enrolment.person)
        self.base = f"{site}/xapi/courses/{self.course.key}"
        account = {"homePage": site, "name": str(enrolment.person_id)}
        self.actor = {
            "objectType": "Agent",
            "name": enrolment.person.display_name,
            "account": account,
        }

    def _id(self, *parts: object) -> str:
        """The same however the learner came here, so that a store knows a statement again."""
        named = ("vendaval", self.course.key, str(self.person), *map(str, parts))
        return str(uuid5(NAMESPACE_URL, "/".join(named)))

    def _activity(self, path: str, kind: str, name: str) -> Statement:
        return {
            "objectType": "Activity",
            "id": f"{self.base}{path}",
            "definition": {"type": f"{TYPES}{kind}", "name": {LANGUAGE: name}},
        }

    def _statement(
        self,
        ids: tuple[object, ...],
        verb: str,
        about: Statement,
        at: Any,
        *,
        parent: Statement | None = None,
        run: int | None = None,
        result: Statement | None = None,
    ) -> Statement:
        grouping = [self._activity("", "course", self.course.title)]
        activities: Statement = {"grouping": grouping}
        if parent is not None:
            activities["parent"] = [parent]
        context: Statement = {"contextActivities": activities, "language": LANGUAGE}
        if run is not None:
            context["registration"] = self._id("run", run)
        told: Statement = {
            "id": self._id(*ids),
            "version": VERSION,
            "actor": self.actor,
            "verb": {"id": f"{VERBS}{verb}", "display": {LANGUAGE: verb}},
            "object": about,
            "context": context,
            "timestamp": at.isoformat(),
        }
        if result is not None:
            told["result"] = result
        return told

    def run(self, run: Run) -> Statement:
        about = self._activity(f"/runs/{run.pk}", "assessment", f"{run.title}, {run.purpose}")
        return self._statement(
            ("run", run.pk, "attempted"), "attempted", about, run.started_at, run=run.pk
        )

    def tried(self, row: RecordRow, tried: Try) -> Statement:
        family = tried.presentation.revision.family
        about = self._activity(f"/questions/{family.key}", "question", row.question)
        topic = self._activity(f"/topics/{family.topic.key}", "module", row.topic)
        result: Statement = {"duration": duration(tried.seconds), "completion": True}
        if row.answer:
            result["response"] = row.answer
        if row.result != "waiting":
            result |= {"score": {"scaled": row.share}, "success": row.result == "right"}
        return self._statement(
            ("try", tried.pk),
            "answered",
            about,
            tried.at,
            parent=topic,
            run=tried.presentation.run_id,
            result=result,
        )

    def scored(self, row: RecordRow, mark: Mark) -> Statement:
        """A mark that came later than the try, or in the place of another one."""
        family = mark.tried.presentation.revision.family
        about = self._activity(f"/questions/{family.key}", "question", row.question)
        result = {"score": {"scaled": row.share}, "success": row.result == "right"}
        run = mark.tried.presentation.run_id
        ids = ("mark", mark.pk)
        return self._statement(ids, "scored", about, mark.at, run=run, result=result)

    def level(self, level: LevelRecord) -> Statement:
        """A level as the learner was shown it: its bounds have no place in the standard."""
        about = self._activity(f"/topics/{level.topic.key}", "module", level.topic.title)
        bounds = {"low": round(level.low, 2), "high": round(level.high, 2)}
        result = {
            "score": {"scaled": round(level.level / 100, 4)},
            "extensions": {f"{EXTENSIONS}level": bounds},
        }
        return self._statement(("level", level.pk), "progressed", about, level.at, result=result)

    def attempt(self, attempt: Attempt) -> Statement | None:
        """An attempt at a test once its points may be told; None before."""
        if attempt.handed_in_at is None or attempt.total is None:
            return None
        if not told_of(attempt)[1].score or attempt.total.waiting:
            return None
        total = attempt.total.core()
        about = self._activity(f"/tests/{attempt.test_id}", "assessment", attempt.test.title)
        of, reached = float(total.of), float(total.reached)
        result: Statement = {"completion": True}
        if of > 0:
            scaled = round(max(-1.0, min(1.0, reached / of)), 4)
            low = min(0.0, reached)
            result["score"] = {"scaled": scaled, "raw": reached, "min": low, "max": of}
        ids = ("attempt", attempt.pk, attempt.number)
        at = attempt.handed_in_at
        return self._statement(ids, "completed", about, at, run=attempt.run_id, result=result)

    def studied(self, help_: HelpOpened) -> Statement:
        path = f"/study/{help_.topic}/{help_.section}"
        about = self._activity(path, "media", help_.section.replace("-", " "))
        return self._statement(("help", help_.pk), "experienced", about, help_.at)

    def met(self, met: TargetMet) -> Statement:
        about = self._activity(f"/topics/{met.topic.key}", "module", met.topic.title)
        result = {"score": {"scaled": round(met.level / 100, 4)}, "success": True}
        return self._statement(("met", met.pk), "mastered", about, met.at, result=result)

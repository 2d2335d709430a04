"""Simulated learners who answer through the same actions as everybody else."""

from __future__ import annotations

import random
from dataclasses import dataclass, field
from datetime import datetime, timedelta

import numpy as np

from vendaval.bank.queries import course_of_key
from vendaval.bank.snapshot import CourseBank, course_bank, version_of
from vendaval.diagnostic.run import StartDiagnosticIn
from vendaval.levels.models import TargetMet
from vendaval.people.models import User
from vendaval.practice.run import StartPracticeIn
from vendaval.recheck.run import StartRecheckIn
from vendaval.shared import clock
from vendaval.work import actions
from vendaval.work.grading import Sent
from vendaval.work.models import Presentation, Purpose, Run, TryKind
from vendaval.work.questions import OpenQuestion
from vendaval.work.replies import Answered
from vendaval.work.schemas import StartIn
from vendaval_core.items.kinds.protocol import Key


def keys_of_shown(presentation: Presentation) -> tuple[Key, ...]:
    """The keys of a question that somebody is shown."""
    return version_of(presentation.revision, presentation.seed, presentation.order).parts


GUESSED = 0.1


@dataclass(slots=True)
class SimulatedLearner:
    """A learner with true abilities in logits by topic key, a clock and a random source.

    pace: by what questions need. hasty: share of questions answered before they can be read.
    """

    user: User
    course: str
    ability: dict[str, float]
    rng: random.Random
    time: datetime
    taught: dict[str, bool] = field(default_factory=dict)
    sent: int = 0
    pace: float = 1.0
    hasty: float = 0.0

    def now(self) -> datetime:
        return self.time

    def wait(self, seconds: float) -> None:
        self.time += timedelta(seconds=seconds)

    def _key(self) -> str:
        self.sent += 1
        return f"demo-{self.user.username}-{self.sent:05d}"

    def _chance(self, presentation: Presentation) -> tuple[float, str]:
        item = self._bank().families[presentation.revision.family.key]
        topic = item.family.topic
        theta = np.array([self.ability[topic]])
        if item.curve.steps:
            return float(item.curve.knowing(theta)[0]), topic
        return float(item.curve.probabilities(theta)[1, 0]), topic

    def _bank(self) -> CourseBank:
        return course_bank(course_of_key(self.course))

    def _responses(self, presentation: Presentation, chance: float) -> dict[str, str]:
        return {
            key.id: key.examples.right if self.rng.random() < chance else key.likely_wrong(self.rng)
            for key in keys_of_shown(presentation)
        }

    def _confidence(self, chance: float) -> int | None:
        if self.rng.random() < 0.35:
            return None
        leaning = chance + self.rng.gauss(0, 0.18)
        return 100 if leaning > 0.97 else 90 if leaning > 0.82 else 70 if leaning > 0.62 else 50

    def _think(self, presentation: Presentation, chance: float) -> float:
        """Take the time a question needs, or guess at once. Returns the chance of being right."""
        seconds = presentation.revision.data.seconds
        if self.hasty and self.rng.random() < self.hasty:
            self.wait(self.rng.uniform(1, 3))
            return GUESSED
        self.wait(seconds * self.pace * self.rng.lognormvariate(0, 0.35))
        return chance

    def _start(self, wanted: StartIn) -> Run:
        return actions.start_run(self.user, self.course, wanted)

    def _submit(self, presentation: Presentation, sent: Sent) -> Answered:
        return actions.submit_try(self.user, self.course, presentation.pk, sent)

    def _end(self, run: Run) -> Run:
        return actions.finish_run(self.user, self.course, run.pk)

    def run_diagnostic(self, subject: str | None, most: int, *, leave: bool = False) -> Run:
        """Answer a diagnostic until it stops or for a number of questions; end it or leave it."""
        with clock.held_by(self.now):
            run = self._start(StartDiagnosticIn(purpose=Purpose.DIAGNOSTIC, subject=subject))
            presentation = run.current
            for _ in range(most):
                if presentation is None:
                    break
                chance, topic = self._chance(presentation)
                chance = self._think(presentation, chance)
                not_taught = not self.taught.get(topic, True) and self.rng.random() < 0.6
                sent = Sent(self._key(), {}, kind=TryKind.NOT_TAUGHT)
                if not not_taught:
                    given = self._responses(presentation, chance)
                    sent = Sent(self._key(), given, self._confidence(chance))
                presentation = self._submit(presentation, sent).next
                self.wait(5)
            return run if leave else self._end(run)

    def practise(
        self, topic: str, questions: int, gain: float = 0.04, *, leave: bool = False
    ) -> Run:
        """Practise a topic for a number of questions, learning a little from each."""
        with clock.held_by(self.now):
            run = self._start(StartPracticeIn(purpose=Purpose.PRACTICE, topics=[topic]))
            presentation = run.current
            for _ in range(questions):
                if presentation is None or (topic in self.met() and not leave):
                    break
                presentation = self._work_through(presentation)
                self.ability[topic] += gain
            return run if leave else self._end(run)

    def recheck(self) -> Run:
        """Take the recheck that is due, to its end."""
        with clock.held_by(self.now):
            run = self._start(StartRecheckIn(purpose=Purpose.RECHECK))
            presentation = run.current
            while presentation is not None:
                chance = self._think(presentation, self._chance(presentation)[0])
                sent = Sent(self._key(), self._responses(presentation, chance))
                presentation = self._submit(presentation, sent).next
            return run

    def _work_through(self, presentation: Presentation) -> Presentation | None:
        chance, _ = self._chance(presentation)
        confidence = self._confidence(chance)
        for _ in range(4):
            given = self._responses(presentation, self._think(presentation, chance))
            answered = self._submit(presentation, Sent(self._key(), given, confidence))
            self.wait(8)
            if answered.next is not None:
                return answered.next
            if answered.question.presentation.closed_at is not None:
                return self._read_and_go_on(answered.question)
            chance, confidence = min(0.95, chance + 0.3), None
        question, following = actions.show_working(self.user, self.course, presentation.pk)
        return following or self._read_and_go_on(question)

    def _read_and_go_on(self, question: OpenQuestion) -> Presentation | None:
        family = question.item.family
        topic, section = question.bank.section(family.study, family.topic)
        actions.open_study(self.user, self.course, topic.key, section.key)
        self.wait(60 * section.minutes)
        return actions.go_on(self.user, self.course, question.run.pk).current

    def met(self) -> set[str]:
        """Topics whose target this learner has met."""
        rows = TargetMet.objects.filter(enrolment__person=self.user)
        return set(rows.values_list("topic__key", flat=True))

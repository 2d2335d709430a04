"""Practice of one topic or a mix of several, to a goal and on from there."""

from __future__ import annotations

from datetime import datetime
from fractions import Fraction

from django.utils.translation import gettext

from vendaval.bank.snapshot import BankTopic
from vendaval.delivery.payload import study_link
from vendaval.delivery.schemas import Can, StudyLinkOut
from vendaval.groups.models import Enrolment
from vendaval.levels.ideas import ideas_of
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.presenting import present
from vendaval.levels.progress import progress_of
from vendaval.shared.changes import Changes
from vendaval.shared.errors import Conflict
from vendaval.work.actions import note_help
from vendaval.work.activity import Activity
from vendaval.work.columns import Why
from vendaval.work.grading import Graded
from vendaval.work.models import Closing, HelpKind, Presentation, Purpose, Run
from vendaval.work.questions import OpenQuestion, close, in_open_test
from vendaval.work.run_replies import run_out
from vendaval.work.runs import new_run, open_runs, unfinished_run, withdraw
from vendaval.work.schemas import RunOut, StartIn
from vendaval_core.items.mark import Verdict
from vendaval_core.mastery.goals import next_topic
from vendaval_core.mastery.practice import (
    choose_practice,
    misses_on_idea,
    needs_study,
)
from vendaval_core.mastery.step_words import still_wanted
from vendaval_core.scoring.tries import TryRules
from vendaval_core.words import in_words

from .goals import chosen_idea, goal_of, goal_out, note_answer, reached
from .run import PracticeNote, StartPracticeIn, StudyOwed

FRESH_VERSIONS = 4


def note_of(run: Run) -> PracticeNote:
    """What practice keeps about a run."""
    assert isinstance(run.note, PracticeNote)
    return run.note


def note_section_read(enrolment: Enrolment, topic: str, section: str, changes: Changes) -> None:
    """A study section was opened: what it came before may go on."""
    for run in open_runs(enrolment, Purpose.PRACTICE):
        owed, bank = note_of(run).study_first, learning_of(enrolment).bank
        if owed is None or owed.family not in bank.families:
            continue
        if bank.explains(topic, section, bank.families[owed.family].family):
            owed.read = True
            changes.touch(run, "note")


class Practising(Activity):
    """Several tries, each miss taking a part off; help and fresh versions at any time."""

    purpose = Purpose.PRACTICE
    note = PracticeNote
    starts = StartPracticeIn
    whole = False
    teaches = True

    def can(self, presentation: Presentation, hints: int) -> list[Can]:
        found: list[Can] = ["read", "fresh"] if self.fresh_left(presentation) else ["read"]
        if presentation.run.ended_at is None:
            found.append("finish")
        if presentation.closed_at is not None:
            return found
        found += ["answer", "working", "hint"]
        if not presentation.tried:
            found.append("sure")
        return found

    def rules_for(self, run: Run) -> TryRules:
        aims = run.enrolment.aims
        return TryRules(aims.tries, Fraction(aims.miss_takes))

    def start(self, enrolment: Enrolment, wanted: StartIn, now: datetime, changes: Changes) -> Run:
        assert isinstance(wanted, StartPracticeIn)
        learning = learning_of(enrolment)
        topics = [learning.bank.topic(key) for key in dict.fromkeys(wanted.topics)]
        for topic in topics:
            if not learning.taught(topic):
                raise Conflict(
                    gettext("Your group hasn’t been taught {topic} yet.").format(
                        topic=topic.title.lower()
                    ),
                    code="not_yet",
                )
        scope = [topic.key for topic in topics]
        goal = goal_of(wanted.goal, scope, learning)
        run = unfinished_run(enrolment, self.purpose, scope, now, changes)
        if run is None:
            first, more = topics[0].title, len(topics) - 1
            title = (
                gettext("{first} and {more} more").format(first=first, more=in_words(more))
                if more
                else first
            )
            note = PracticeNote(goal=goal)
            run = new_run(enrolment, self.purpose, title, scope, note, now, changes)
            if self.ask(run, now, changes) is None:
                raise Conflict(
                    gettext("Every question here is {in_open_test}.").format(
                        in_open_test=in_open_test()
                    ),
                    code="open_in_test",
                )
        elif wanted.goal is not None:
            note_of(run).goal, note_of(run).reached = goal, False
            changes.touch(run, "note")
        return run

    def ask(self, run: Run, now: datetime, changes: Changes) -> Presentation | None:
        learning, note = learning_of(run.enrolment), note_of(run)
        note.study_first = None
        idea = chosen_idea(note, learning)
        if idea is not None:
            note.last = idea
            return present(learning, run, idea, now, changes, why=Why(rule="idea"))
        topic = self._topic(run, learning)
        if topic is None:
            run.ended_at, run.current = now, None
            changes.touch(run, "ended_at", "current", "note")
            return None
        note.asked[topic.key] = note.asked.get(topic.key, 0) + 1
        choice = choose_practice(learning.families_to_ask(topic.number), note.misses, note.last)
        note.last = choice.family
        why = Why(
            rule="coverage" if choice.for_coverage else "practice",
            success=round(choice.success, 4),
            easier=choice.easier,
        )
        return present(learning, run, choice.family, now, changes, why=why)

    def _topic(self, run: Run, learning: Learning) -> BankTopic | None:
        """The topic of the next question: by turns in a mix. None while all their questions are in
        open tests."""
        topics = [
            topic
            for topic in learning.bank.topics_of(run.scope)
            if any(
                learning.askable(item.family.key) for item in learning.bank.of_topic(topic.number)
            )
        ]
        if not topics:
            return None
        met = {topic.key: learning.is_met(topic.number) for topic in topics}
        key = next_topic([topic.key for topic in topics], note_of(run).asked, met)
        return learning.bank.topic(key)

    def follow(self, graded: Graded, now: datetime, changes: Changes) -> Presentation | None:
        question = graded.question
        note = note_of(question.run)
        if graded.row.first:
            note.misses = note.misses + 1 if graded.missed else 0
            note_answer(note, graded)
            learning = learning_of(question.enrolment)
            note.reached = reached(note, question.run.scope, learning)
        if question.state.closed(self.rules_for(question.run)):
            close(question.presentation, Closing.ANSWERED, now)
            return self._after(question, now, changes)
        if any(mark.verdict == Verdict.WRONG for mark in graded.marks):
            self._offer_hint(graded)
        return None

    def _after(
        self, question: OpenQuestion, now: datetime, changes: Changes
    ) -> Presentation | None:
        """What follows a closed question: the next one, unless its idea was missed again and
        again; then nothing does until its study section was opened."""
        note, family = note_of(question.run), question.version.family
        if question.state.waits and question.state.first_tries_done:
            return self.ask(question.run, now, changes)
        right = question.state.first_tries_right and not question.presentation.helped
        note.missed = misses_on_idea(note.missed, family, right)
        if needs_study(note.missed[family]):
            note.missed[family] = 0
            note.study_first = StudyOwed(family=family)
            return None
        return self.ask(question.run, now, changes)

    def _offer_hint(self, graded: Graded) -> None:
        """A miss that the family did not foresee brings the next hint."""
        question, presentation = graded.question, graded.question.presentation
        foreseen = any(mark.says for mark in graded.marks)
        if not foreseen and presentation.hints_shown < len(question.version.hints):
            presentation.hints_shown += 1
            presentation.helped = presentation.helped or not question.state.first_tries_done

    def may_go_on(self, run: Run) -> bool:
        """Once the study section that comes first was opened."""
        owed = note_of(run).study_first
        if owed is None:
            return False
        if not owed.read and owed.family in learning_of(run.enrolment).bank.families:
            raise Conflict(
                gettext("Read its study section first, then continue."), code="study_first"
            )
        return True

    def hint(self, question: OpenQuestion, now: datetime, changes: Changes) -> None:
        presentation = question.presentation
        if presentation.hints_shown >= len(question.version.hints):
            raise Conflict(gettext("There are no more hints."), code="no_hint")
        note_help(question, HelpKind.HINT, now, changes, presentation.hints_shown)
        presentation.hints_shown += 1

    def working(
        self, question: OpenQuestion, now: datetime, changes: Changes
    ) -> Presentation | None:
        note_help(question, HelpKind.SOLUTION, now, changes)
        close(question.presentation, Closing.SHOWN, now)
        return self._after(question, now, changes)

    def fresh_left(self, presentation: Presentation) -> int:
        if presentation.run.ended_at is not None:
            return 0
        root = presentation.root_id or presentation.pk
        return max(0, FRESH_VERSIONS - note_of(presentation.run).fresh.get(str(root), 0))

    def fresh(self, question: OpenQuestion, now: datetime, changes: Changes) -> None:
        presentation, run = question.presentation, question.run
        if question.item.family.versions == 1:
            raise Conflict(gettext("This question has only one version."), code="one_version")
        if self._has_fresh(presentation):
            return
        if not learning_of(question.enrolment).askable(question.version.family):
            raise Conflict(
                gettext("Its other versions are {in_open_test}.").format(
                    in_open_test=in_open_test()
                ),
                code="open_in_test",
            )
        if self.fresh_left(presentation) == 0:
            raise Conflict(
                gettext("You’ve used all fresh versions of this question."), code="no_fresh_left"
            )
        if presentation.closed_at is None:
            close(presentation, Closing.REPLACED, now)
            changes.touch(presentation, "closed_at", "closing")
        if run.current_id not in {None, presentation.pk} and run.current is not None:
            withdraw(run.current, now, changes)
        note, root = note_of(run), presentation.root_id or presentation.pk
        note.fresh[str(root)] = note.fresh.get(str(root), 0) + 1
        note.last = question.version.family
        note.study_first = None
        present(
            learning_of(question.enrolment),
            run,
            question.version.family,
            now,
            changes,
            why=Why(rule="fresh"),
            root=presentation if presentation.root_id is None else presentation.root,
        )

    def _has_fresh(self, presentation: Presentation) -> bool:
        """Whether a fresh version of a question waits already: the same request again uses none."""
        waiting = presentation.run.current
        return (
            waiting is not None
            and waiting.closed_at is None
            and waiting.pk != presentation.pk
            and waiting.root_id == (presentation.root_id or presentation.pk)
        )

    def run_out(self, run: Run) -> RunOut:
        """A run with the levels of its topics, and what its goal and target still want."""
        learning, note = learning_of(run.enrolment), note_of(run)
        topics = learning.bank.topics_of(run.scope)
        wanted = None
        if len(topics) == 1 and learning.topic(topics[0].key).met_at is None:
            number = topics[0].number
            chance, covered = learning.readings[number].chance, learning.coverage(number)
            wanted = still_wanted(chance, learning.steady(number), covered)
        return run_out(
            run,
            wanted=wanted,
            goal=goal_out(note, run.scope, learning),
            ideas=ideas_of(learning, topics[0].number) if len(topics) == 1 else [],
            study_first=self._study_first(run),
            topics=progress_of(learning, topics),
        )

    def _study_first(self, run: Run) -> StudyLinkOut | None:
        """The section to open before the run goes on."""
        bank, owed = learning_of(run.enrolment).bank, note_of(run).study_first
        if owed is None or run.ended_at is not None or owed.family not in bank.families:
            return None
        return study_link(bank, bank.families[owed.family].family)

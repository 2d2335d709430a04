"""What an activity says about its runs and questions. `config/activities.py` names them all.

Everything here works in memory and puts what is to be written into `Changes`; nothing is stored
until the action that asked for it takes the lock.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import Annotated, Any, ClassVar, Union

from django.conf import settings
from django.utils.module_loading import import_string
from django.utils.translation import gettext
from pydantic import Field

from vendaval.delivery.disclosure import AS_IT_GOES, EVERYTHING, OUTCOME, Disclosure
from vendaval.delivery.schemas import Can
from vendaval.groups.models import Enrolment
from vendaval.people.models import User
from vendaval.shared.changes import Changes, Guard
from vendaval.shared.errors import Conflict
from vendaval_core.scoring.tries import ONE_TRY, TryRules

from .columns import NoNote, RunNote
from .grading import Graded, Moved
from .models import Presentation, Purpose, Run, Try
from .questions import OpenQuestion
from .schemas import RunOut, StartIn


class Activity(ABC):
    """Rules, disclosure and what follows, for one purpose.

    note: what its runs keep. starts: what one is begun with, None when it is begun elsewhere.
    whole: nothing counts until every part has an answer. teaches: whether feedback follows at
    once, so that an answer is an opportunity to learn.
    """

    purpose: ClassVar[Purpose]
    note: ClassVar[type[RunNote]] = NoNote
    starts: ClassVar[type[StartIn] | None] = None
    whole: ClassVar[bool]
    teaches: ClassVar[bool]

    def disclosure(
        self, presentation: Presentation, *, closed: bool, in_review: bool = False
    ) -> Disclosure:
        """What may be told of a question now."""
        if self.answers_in_review:
            return EVERYTHING if closed and in_review else OUTCOME
        return EVERYTHING if closed else AS_IT_GOES

    def rules_for(self, run: Run) -> TryRules:
        """Tries and penalties in a run: one try, unless the activity says otherwise."""
        return ONE_TRY

    def counts(self, run: Run) -> bool:
        """Whether answers in a run are evidence: they move levels and open misses."""
        return True

    def lapse(self, question: OpenQuestion) -> float:
        """Chance that some of the topic was lost before this answer: a check looks for that."""
        return 0.0

    def refusal(self, question: OpenQuestion, now: datetime) -> Conflict | None:
        """Why an answer cannot be graded now, though the question is open."""
        return None

    def refuses_files(
        self, presentation: Presentation, now: datetime, *, working: bool
    ) -> Conflict | None:
        """Why a file can't be added to an answer now, or removed. working: a photograph of working
        on paper, which usually may come at any time."""
        if working or presentation.closed_at is None:
            return None
        return Conflict(
            gettext("This question is closed. We changed nothing."), code="question_closed"
        )

    @abstractmethod
    def can(self, presentation: Presentation, hints: int) -> list[Can]:
        """What the learner may do now. hints: how many the version has."""

    @abstractmethod
    def start(self, enrolment: Enrolment, wanted: StartIn, now: datetime, changes: Changes) -> Run:
        """Begin a run, or take up the one under way."""

    @abstractmethod
    def ask(self, run: Run, now: datetime, changes: Changes) -> Presentation | None:
        """Present the run's next question; None when there is none."""

    @abstractmethod
    def follow(self, graded: Graded, now: datetime, changes: Changes) -> Presentation | None:
        """After an answer that counts: close the question or leave it open, present the next."""

    @abstractmethod
    def run_out(self, run: Run) -> RunOut:
        """A run as shown while answering."""

    shows_last: ClassVar[bool] = False
    """Whether an ended run still shows its last question."""
    answers_in_review: ClassVar[bool] = False
    """Whether right or wrong is all that is told before Review."""
    listed: ClassVar[bool] = True
    """Whether its runs are graded up from lists; a test is graded up from its own page."""
    contestable: ClassVar[bool] = False
    """Whether marks of its questions can be contested."""
    mends: ClassVar[bool] = False
    """Whether its questions are fresh versions of what was missed."""

    def fresh_left(self, presentation: Presentation) -> int:
        """Fresh versions of this question still to be had."""
        return 0

    def may_go_on(self, run: Run) -> bool:
        """Whether the next question may be asked though none waits."""
        return False

    def hint(self, question: OpenQuestion, now: datetime, changes: Changes) -> None:
        """Show the next hint."""
        raise Conflict(gettext("There are no hints here."), code="no_hint")

    def working(
        self, question: OpenQuestion, now: datetime, changes: Changes
    ) -> Presentation | None:
        """Close a question and show its worked solution; what follows is presented."""
        raise Conflict(gettext("You can’t see the working here."), code="no_working")

    def fresh(self, question: OpenQuestion, now: datetime, changes: Changes) -> None:
        """Same idea, new numbers."""
        raise Conflict(gettext("You can’t get fresh versions here."), code="no_fresh_left")

    def swap(self, question: OpenQuestion, now: datetime, changes: Changes) -> None:
        """Put an untouched question aside for another."""
        raise Conflict(gettext("You can’t swap questions here."), code="no_swap")

    def undo(
        self, question: OpenQuestion, replay_key: str, now: datetime, changes: Changes
    ) -> None:
        """Undo "I haven't been taught this"."""
        raise Conflict(gettext("There’s nothing to undo here."), code="nothing_to_undo")


@dataclass(frozen=True, slots=True)
class Activities:
    """Every purpose's activity, what follows each event, and the row that guards a learner's work
    in a course."""

    by_purpose: Mapping[Purpose, Activity]
    # An answer that counts, in this order, before the activity goes on.
    followers: Sequence[Callable[[Graded, Activity, datetime, Changes], None]]
    # A study section was opened.
    study: Sequence[Callable[[Enrolment, str, str, Changes], None]]
    # What a stored try did to its level.
    recall: Callable[[Try], Moved | None]
    # Marks came later, or took the place of others; with the outcome.
    marked: Sequence[Callable[[OpenQuestion, Try, int, datetime, Changes], None]]
    # Right or wrong may be told from now on, of these questions and their first tries.
    released: Sequence[Callable[[Sequence[tuple[OpenQuestion, Try]], datetime, Changes], None]]
    # The right answers may be told of a question that was held back.
    answers_shown: Sequence[Callable[[OpenQuestion, Try, datetime, Changes], None]]
    # A test was handed in, and its tries are written.
    handed_in: Sequence[Callable[[Run, Changes], None]]
    # Marks that a person gave were released.
    marks_released: Sequence[Callable[[Run], None]]
    # Somebody is asked to mark a second time; with the title and the address of what.
    asked_to_mark: Sequence[Callable[[User, str, str], None]]
    # Points that were released became others; with the family's key and the reason.
    regraded: Sequence[Callable[[Run, str, str], None]]
    # A test that was handed in goes on; with the reason.
    reopened: Sequence[Callable[[Run, str], None]]
    # A first try counts no more, or again.
    counting: Sequence[Callable[[OpenQuestion, bool, datetime, Changes], None]]
    # Whether the minutes are over that a run is a piece of.
    time_is_up: Callable[[Run, datetime], bool]
    guard: Callable[[Enrolment], Guard]

    @property
    def any_note(self) -> Any:
        """The type of any run's note."""
        notes = {activity.note for activity in self.by_purpose.values()} | {NoNote}
        ordered = sorted(notes, key=lambda note: note.__name__)
        return Annotated[Union.__getitem__(tuple(ordered)), Field(discriminator="of")]

    @property
    def any_start(self) -> Any:
        """The type of whatever a learner can begin."""
        starts = tuple(a.starts for a in self.by_purpose.values() if a.starts is not None)
        return Annotated[Union.__getitem__(starts), Field(discriminator="purpose")]

    @property
    def unlisted(self) -> list[Purpose]:
        """Purposes whose runs are graded up from their own pages."""
        return [purpose for purpose, one in self.by_purpose.items() if not one.listed]

    def of(self, run: Run) -> Activity:
        """The activity of a run."""
        return self.by_purpose[Purpose(run.purpose)]


@lru_cache(maxsize=1)
def activities() -> Activities:
    """What `config/activities.py` puts together."""
    found: Activities = import_string(settings.ACTIVITIES)
    return found

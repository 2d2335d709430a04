"""Spells of work: proposed, begun, gone on with, ended."""

from __future__ import annotations

from math import ceil

from django.db import transaction
from django.utils.translation import gettext, gettext_noop

from vendaval.bank.snapshot import CourseBank
from vendaval.delivery.schemas import PlaceOut, StudyLinkOut
from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own_enrolment
from vendaval.levels.learning import learning_of
from vendaval.people.models import User
from vendaval.practice.run import QuestionsIn, StartPracticeIn
from vendaval.recheck.run import StartRecheckIn
from vendaval.review.run import StartMendIn
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, DomainError, NotFound
from vendaval.work.actions import finish_run, start_run
from vendaval.work.models import HelpKind, HelpOpened, Purpose, Run
from vendaval.work.schemas import StartIn
from vendaval_core.mastery.filling import LEAST_LEFT, PieceKind, fill

from .clock import minutes_left
from .models import PieceNote, Spell
from .offers import offers
from .schemas import SpellOut, SpellPieceOut, SpellPlanOut

SAYS = gettext_noop(
    "Chosen to help you most in that time. Checks come first, so that nothing you do "
    "before them helps. Times are estimates: {pace}."
)


def _piece_out(note: PieceNote, bank: CourseBank) -> SpellPieceOut:
    topic = bank.topic(note.topic)
    study = None
    if note.section is not None:
        place, section = bank.section_of(topic.key, note.section, topic.key)
        study = StudyLinkOut(
            topic=place.key, section=section.key, title=section.title, minutes=section.minutes
        )
    return SpellPieceOut(
        kind=note.kind,
        topic=PlaceOut(key=topic.key, title=topic.title),
        title=note.title,
        why=note.why,
        minutes=max(1, round(note.minutes)),
        questions=note.questions,
        run=note.run,
        study=study,
        state=note.state,
    )


def _proposed(enrolment: Enrolment, minutes: float) -> list[PieceNote]:
    learning = learning_of(enrolment)
    return [
        PieceNote(
            kind=piece.kind,
            topic=piece.topic,
            title=piece.title,
            why=piece.why,
            minutes=round(piece.minutes, 2),
            questions=piece.questions,
            miss=piece.of,
            section=piece.section,
        )
        for piece in fill(minutes, offers(learning, clock.now()))
    ]


def spell_plan(enrolment: Enrolment, minutes: int) -> SpellPlanOut:
    """What some minutes would be filled with."""
    learning, notes = learning_of(enrolment), _proposed(enrolment, minutes)
    pieces = [_piece_out(note, learning.bank) for note in notes]
    says = (
        gettext(SAYS).format(pace=learning.row.pace.words())
        if pieces
        else gettext("Nothing is waiting for you.")
    )
    filled = round(sum(note.minutes for note in notes))
    return SpellPlanOut(minutes=minutes, filled=filled, says=says, pieces=pieces)


def spell_under_way(enrolment: Enrolment) -> Spell | None:
    """The spell that was left, if any."""
    return Spell.objects.filter(enrolment=enrolment, ended_at=None).order_by("-pk").first()


def own_spell(person: User, course: str, spell_id: int, operation: str) -> Spell:
    """A learner's own spell, or NotFound."""
    enrolment = own_enrolment(person, course, operation)
    spell = Spell.objects.filter(pk=spell_id, enrolment=enrolment).first()
    if spell is None:
        raise NotFound(gettext("We can’t find this work session."))
    spell.enrolment = enrolment
    return spell


def start_spell(person: User, course: str, minutes: int) -> Spell:
    """Begin a spell, with its first piece; the one that was left ends."""
    enrolment = own_enrolment(person, course, "start_spell")
    notes = _proposed(enrolment, minutes)
    if not notes:
        raise Conflict(gettext("Nothing is waiting for you now."), code="nothing_to_do")
    now = clock.now()
    with transaction.atomic():
        Spell.objects.filter(enrolment=enrolment, ended_at=None).update(ended_at=now)
        spell = Spell.objects.create(
            enrolment=enrolment, minutes=minutes, pieces=notes, started_at=now, touched_at=now
        )
    return _begin_next(person, spell)


def go_on(person: User, course: str, spell_id: int, piece: int) -> Spell:
    """The next piece: the one at hand is done, or passed over when nothing was done in it. Nothing
    when another piece is at hand by now."""
    spell = own_spell(person, course, spell_id, "go_on_spell")
    if spell.ended_at is not None or at_hand(spell) != piece:
        return spell
    _close(person, spell)
    _choose_again(spell)
    return _begin_next(person, spell)


def _choose_again(spell: Spell) -> None:
    """Fill what is left of the time anew: misses and rechecks may have come up meanwhile. What was
    passed over isn't offered again."""
    gone = [note for note in spell.pieces if note.state in {"done", "passed"}]
    passed = {_about(note) for note in gone if note.state == "passed"}
    left = minutes_left(spell, clock.now())
    proposed = _proposed(spell.enrolment, left) if left >= LEAST_LEFT else []
    spell.pieces = gone + [note for note in proposed if _about(note) not in passed]


def _about(note: PieceNote) -> tuple[PieceKind, str, int | None, str | None]:
    return note.kind, note.topic, note.miss, note.section


def end_spell(person: User, course: str, spell_id: int) -> Spell:
    """End a spell before its last piece; what was done in it stays."""
    spell = own_spell(person, course, spell_id, "end_spell")
    if spell.ended_at is None:
        _close(person, spell)
        spell.ended_at = spell.touched_at = clock.now()
        spell.save(update_fields=["pieces", "ended_at", "touched_at"])
    return spell


def at_hand(spell: Spell) -> int | None:
    """Number of the piece that is at hand."""
    return next((i for i, note in enumerate(spell.pieces) if note.state == "begun"), None)


def _close(person: User, spell: Spell) -> None:
    """The piece at hand is done, or passed over when nothing was done in it."""
    for note in spell.pieces:
        if note.state == "begun":
            note.state = "done" if _worked(spell, note) else "passed"
            _leave(person, spell, note)


def _worked(spell: Spell, note: PieceNote) -> bool:
    if note.kind is PieceKind.READ:
        opened = HelpOpened.objects.filter(
            enrolment=spell.enrolment, kind=HelpKind.STUDY, at__gte=spell.started_at
        )
        return opened.filter(topic=note.topic, section=note.section).exists()
    return note.run is not None and Run.objects.filter(pk=note.run, answered__gt=0).exists()


def _leave(person: User, spell: Spell, note: PieceNote) -> None:
    """A practice run ends with its piece; a recheck stays open until it is through."""
    if note.kind is PieceKind.PRACTISE and note.run is not None:
        finish_run(person, spell.enrolment.course.key, note.run)


def _begin_next(person: User, spell: Spell) -> Spell:
    """Begin the next piece that can be begun; the spell ends after the last."""
    course, now = spell.enrolment.course.key, clock.now()
    spell.touched_at = now
    for note in spell.pieces:
        if note.state != "waiting":
            continue
        note.state = "begun"
        wanted = _wanted(note)
        if wanted is None:
            break
        try:
            note.run = start_run(person, course, wanted).pk
        except DomainError:
            # What was to be done has been done elsewhere in between.
            note.state = "passed"
            continue
        Run.objects.filter(pk=note.run).update(spell=spell.pk)
        break
    else:
        spell.ended_at = now
    spell.save(update_fields=["pieces", "touched_at", "ended_at"])
    return spell


def _wanted(note: PieceNote) -> StartIn | None:
    match note.kind:
        case PieceKind.RECHECK:
            return StartRecheckIn(purpose=Purpose.RECHECK)
        case PieceKind.MEND:
            return StartMendIn(purpose=Purpose.MISSED, miss=note.miss or 0)
        case PieceKind.PRACTISE:
            goal = QuestionsIn(kind="questions", questions=note.questions)
            return StartPracticeIn(purpose=Purpose.PRACTICE, topics=[note.topic], goal=goal)
        case PieceKind.READ:
            return None


def spell_out(spell: Spell) -> SpellOut:
    """A spell as it stands."""
    bank = learning_of(spell.enrolment).bank
    left = minutes_left(spell, clock.now())
    return SpellOut(
        id=spell.pk,
        minutes=spell.minutes,
        minutes_left=0 if spell.ended_at else ceil(left),
        ended=spell.ended_at is not None,
        current=at_hand(spell),
        started_at=spell.started_at,
        pieces=[_piece_out(note, bank) for note in spell.pieces],
    )

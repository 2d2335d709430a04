"""What several kinds have in common, to be taken on by name: a kind without it says its own."""

from __future__ import annotations

import random
from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from fractions import Fraction
from typing import Protocol

from vendaval_core.language import gettext

from ...errors import ExpressionError
from ..drawn import KeyedMixUp, KeyedNearMiss
from ..fields import Values
from ..files import FileRules
from ..mark import BLANK, PartMark, Piece, ReadBack, Verdict, lines
from ..presented import Html, TokenOut
from ..randomness import SeededStream
from ..template import fill
from .protocol import Examples, MarkedByPerson, Token

NOTHING = "nothing"
IDS = "abcdefghijklmnop"
SLACK = 1e-9


class Marked(Protocol):
    """What marks a response."""

    def mark(self, response: str) -> PartMark: ...


class MarkedByRule:
    """A part that needs no person, and takes no files."""

    __slots__ = ()

    @property
    def by_person(self) -> MarkedByPerson | None:
        return None

    @property
    def files(self) -> FileRules | None:
        return None


class OnePiece:
    """An answer that is shown and compared as one thing."""

    __slots__ = ()

    def pieces(self, response: str) -> list[Piece]:
        return []


class NoFigure:
    """A part that is not answered on a figure."""

    __slots__ = ()

    @property
    def figure(self) -> None:
        return None


class NoAxes:
    """A part without axes on which points could be drawn."""

    __slots__ = ()

    def right_points(self) -> Sequence[tuple[float, float]]:
        return ()


class NotTyped:
    """A part whose answer cannot be copied out of the prompt, and is read the same whatever is
    right."""

    __slots__ = ()

    def read_back(self: Marked, response: str) -> ReadBack:
        if not response.strip():
            return BLANK
        mark = self.mark(response)
        if mark.verdict is Verdict.INCOMPLETE:
            return ReadBack("incomplete", mark.says or "")
        if mark.verdict is Verdict.UNREADABLE:
            return ReadBack("unreadable", mark.says or "")
        return ReadBack("read")

    def right_when_typed(self, text: str) -> bool:
        return False

    def usual_forms(self) -> Iterator[str]:
        return iter(())


class NotChosen:
    """A part without a list of choices: none of them can be wrong, or always at one place."""

    __slots__ = ()

    def wrong_choices(self, response: str) -> Fraction:
        return Fraction(0)

    def right_in_order(self) -> tuple[str, ...] | None:
        return None


class Canonical:
    """A part whose answers are told apart by how they were read."""

    __slots__ = ()

    def same_answer(self, response: str, canonical: str) -> str:
        return canonical


class WrongAsExample:
    """A part for which simulated learners have no likelier slip than the example."""

    __slots__ = ()

    @property
    def examples(self) -> Examples:
        raise NotImplementedError

    def likely_wrong(self, rng: random.Random) -> str:
        return self.examples.wrong


def tokens_of(texts: Sequence[str], stream: SeededStream) -> tuple[tuple[Token, ...], list[str]]:
    """Return tokens in the order shown, and the id of each text in the order given."""
    order = stream.shuffled(range(len(texts)))
    ids = {place: IDS[i] for i, place in enumerate(order)}
    shown = tuple(Token(IDS[i], texts[place]) for i, place in enumerate(order))
    return shown, [ids[place] for place in range(len(texts))]


def tokens_out(tokens: Sequence[Token], html: Html) -> list[TokenOut]:
    """Return tokens as they go to the browser."""
    return [TokenOut(id=token.id, html=html(token.text)) for token in tokens]


def keyed_mix_up(
    place: str | int,
    token: str,
    says: str,
    places: Mapping[str, str],
    tokens: Mapping[str, str],
    values: Values,
) -> KeyedMixUp:
    """Return a foreseen mix-up with ids instead of the author's names. places, tokens: ids by name.

    Raises ExpressionError if the part has no such place or token.
    """
    place, token = fill(str(place), values), fill(token, values)
    if place not in places or token not in tokens:
        raise ExpressionError(
            gettext("there is no “{place}” with “{token}” to confuse").format(
                place=place, token=token
            )
        )
    return KeyedMixUp(places[place], tokens[token], fill(says, values))


def mixed_up(mix_ups: Sequence[KeyedMixUp], made: Callable[[str, str], bool]) -> str | None:
    """Return the feedback for the first mix-up that was made, or None. made: whether the answer
    puts this token in this place."""
    return next((one.says for one in mix_ups if made(one.place, one.token)), None)


def right_mix_ups(
    mix_ups: Sequence[KeyedMixUp], right: Callable[[str, str], bool]
) -> Iterator[str]:
    """Yield the faults of mix-ups that the right answer makes too."""
    for one in mix_ups:
        if right(one.place, one.token):
            yield gettext("the right answer makes a mix-up too: {says}").format(says=one.says)


def twins(texts: Sequence[str], what: str = "choices") -> Iterator[str]:
    """Yield a fault if two choices, tokens or items look the same."""
    counted = Counter(text.strip().casefold() for text in texts)
    if twice := sorted(text for text, count in counted.items() if count > 1):
        yield gettext("two {what} are the same: {twice}").format(what=what, twice=twice)


def same_slips(misses: Sequence[KeyedNearMiss]) -> Iterator[str]:
    """Yield a fault if two near misses have the same value, because only one feedback could be
    shown."""
    values = [round(m.value, 6) if isinstance(m.value, float) else m.value for m in misses]
    if len(set(values)) < len(values):
        yield gettext("two slips give the same value: {map}").format(map=sorted(map(str, values)))


def named(texts: Mapping[str, str], response: str) -> str:
    """Return the texts of what was chosen, or "" if nothing was."""
    if not response.strip():
        return ""
    return ", ".join(texts.get(id_, NOTHING) for id_ in lines(response)) or NOTHING


def pieces_in_words(pieces: Sequence[Piece], *, right: bool) -> str:
    """Return an answer of several pieces in one line: what was given, or what is right."""
    told = ((piece.label, piece.right if right else piece.given) for piece in pieces)
    return "; ".join(f"{label}: {text}" if label else text for label, text in told)

"""Marks of parts answered by choosing: choices, orders, slots, pairs.

QTI 3 response processing: match correct, or map response, with the author's points between
bounds, or with each right value worth a share, each wrong one minus a share, and 0 the least.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from fractions import Fraction

from ..drawn import KeyedMixUp
from ..keys import AssociateKey, ChoiceKey, OrderKey, SlotsKey
from ..mark import PartMark, lines, shared, unreadable


def mark_choice(key: ChoiceKey, response: str) -> PartMark:
    """One choice, an exact number, or any number."""
    known = {choice.id: choice for choice in key.choices}
    chosen = sorted(set(lines(response)))
    if not chosen or any(id_ not in known for id_ in chosen):
        return unreadable("Choose one of the answers.")
    if key.choose is not None and len(chosen) != key.choose:
        return unreadable(f"Choose exactly {key.choose}. You have chosen {len(chosen)}.")
    says = next((known[c].says for c in chosen if not known[c].right and known[c].says), None)
    if key.bounds is not None:
        least, most = key.bounds
        points = min(most, max(least, sum(known[c].points for c in chosen)))
        share = Fraction(points, most)
        return shared(share, "\n".join(chosen), None if share == 1 else says, most)
    right = {choice.id for choice in key.right}
    hits, misses = len(right & set(chosen)), len(set(chosen) - right)
    share = Fraction(int(hits == len(right) and misses == 0))
    if key.partial and share == 0:
        share = max(Fraction(0), Fraction(hits - misses, len(right)))
        share = min(share, Fraction(len(right) - 1, len(right))) if misses else share
    return shared(share, "\n".join(chosen), None if share == 1 else says, len(right))


def _mixed_up(mix_ups: Sequence[KeyedMixUp], given: Callable[[str, str], bool]) -> str | None:
    """What is said to the first mix-up that was made. given: whether these two were."""
    return next((one.says for one in mix_ups if given(one.place, one.token)), None)


def mark_order(key: OrderKey, response: str) -> PartMark:
    """Items in order: exact, or a share for each in its place."""
    given = lines(response)
    if sorted(given) != sorted(key.right):
        return unreadable("Put every item in its place.")
    in_place = sum(a == b for a, b in zip(given, key.right, strict=True))
    whole = in_place == len(given)
    share = Fraction(in_place, len(given)) if key.partial else Fraction(int(whole))
    says = _mixed_up(key.mix_ups, lambda one, other: given.index(one) < given.index(other))
    return shared(share, "\n".join(given), None if whole else says, len(given))


def read_slots(key: SlotsKey, response: str) -> dict[str, str] | str:
    """Token by slot, or why it cannot be read."""
    found: dict[str, str] = {}
    slots, tokens = {slot.id for slot in key.slots}, {token.id for token in key.tokens}
    for line in lines(response):
        slot, _, token = line.partition(" ")
        if slot not in slots or token not in tokens or slot in found:
            return "That is not an answer to this question."
        found[slot] = token
    if len(found) < len(key.slots):
        left = len(key.slots) - len(found)
        return f"{left} of {len(key.slots)} places are still empty."
    if not key.reuse and len(set(found.values())) < len(found):
        return "Each can be used once only."
    return found


def mark_slots(key: SlotsKey, response: str) -> PartMark:
    """Pairs, gaps, drop-downs, places on a figure."""
    found = read_slots(key, response)
    if isinstance(found, str):
        return unreadable(found)
    hits = sum(found[slot.id] == slot.right for slot in key.slots)
    share = Fraction(hits, len(key.slots)) if key.partial else Fraction(int(hits == len(key.slots)))
    says = _mixed_up(key.mix_ups, lambda slot, token: found[slot] == token)
    return shared(share, _paired(found), says, len(key.slots))


def _paired(found: Mapping[str, str]) -> str:
    return "\n".join(f"{slot} {found[slot]}" for slot in sorted(found))


def read_pairs(key: AssociateKey, response: str) -> set[tuple[str, str]] | str:
    """Pairs of item ids, or why they cannot be read."""
    known, used = {item.id for item in key.items}, set[str]()
    found = set[tuple[str, str]]()
    for line in lines(response):
        one, _, other = line.partition(" ")
        if one not in known or other not in known or one == other or {one, other} & used:
            return "Each item can be joined to one other."
        used |= {one, other}
        found.add((min(one, other), max(one, other)))
    if len(found) < len(key.pairs):
        return f"{len(found)} of {len(key.pairs)} pairs are made."
    return found if len(found) == len(key.pairs) else f"Make {len(key.pairs)} pairs."


def mark_associate(key: AssociateKey, response: str) -> PartMark:
    """Items joined two by two."""
    found = read_pairs(key, response)
    if isinstance(found, str):
        return unreadable(found)
    hits = len(found & key.pairs)
    whole = hits == len(key.pairs)
    share = Fraction(hits, len(key.pairs)) if key.partial else Fraction(int(whole))
    says = _mixed_up(key.mix_ups, lambda one, other: (min(one, other), max(one, other)) in found)
    return shared(share, "\n".join(f"{a} {b}" for a, b in sorted(found)), says, len(key.pairs))

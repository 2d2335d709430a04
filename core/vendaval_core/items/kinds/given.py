"""A response of ours as the variables of QTI that a part's rules are written for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..mark import lines
from ..numbers import read_number
from ..processing.values import BaseType, Cardinality, Container, ProcessingError, read_single
from ..reading import Unreadable
from .associate import AssociateKey
from .choice import ChoiceKey
from .extended_text import WrittenKey
from .number import NumberKey
from .order import OrderKey
from .points import PointsKey
from .protocol import Key
from .short_text import TextKey
from .slider import SliderKey
from .slots import SlotsKey
from .table_entry import TableKey, read_cells


@dataclass(frozen=True, slots=True)
class Variable:
    """A response's variable, as it is declared."""

    name: str
    cardinality: Cardinality
    base: BaseType

    def holds(self, *values: str) -> Container:
        """It with values as QTI writes them; what is none of its type is left out."""
        found = []
        for value in values:
            try:
                found.append(read_single(self.base, value))
            except ProcessingError:
                continue
        return Container(self.cardinality, self.base, tuple(found))


@dataclass(frozen=True, slots=True)
class Naming:
    """How a part's answer becomes variables. variables: one, or one for each drop-down or cell.
    ids: identifiers of tokens by their text; each: of every drop-down. places: of gaps, in order,
    or of the row whose choices these are. turned: whether a pair begins with its token. height: of
    the picture that points are counted on from above."""

    variables: tuple[Variable, ...]
    ids: Mapping[str, str]
    places: tuple[str, ...] = ()
    turned: bool = False
    height: float = 0.0
    each: tuple[Mapping[str, str], ...] = ()


def given_variables(key: Key, naming: Naming, response: str) -> dict[str, Container]:
    """Return the variables that a response gives, by name."""
    first = naming.variables[0]
    match key:
        case ChoiceKey():
            texts = {one.id: one.text for one in key.choices}
            chosen = _named(naming, texts, lines(response))
            row = f"{naming.places[0]} " if naming.places else ""
            return {first.name: first.holds(*(f"{row}{one}" for one in chosen))}
        case OrderKey():
            texts = {one.id: one.text for one in key.items}
            return {first.name: first.holds(*_named(naming, texts, lines(response)))}
        case AssociateKey():
            texts = {one.id: one.text for one in key.items}
            pairs = [_named(naming, texts, line.split(" ")) for line in lines(response)]
            return {first.name: first.holds(*(" ".join(pair) for pair in pairs))}
        case SlotsKey():
            return _filled(key, naming, response)
        case NumberKey() | SliderKey():
            unit = key.unit if isinstance(key, NumberKey) else key.number.unit
            read = read_number(response, unit)
            value = () if isinstance(read, Unreadable) else (repr(float(read.value)),)
            if first.base == "integer" and not isinstance(read, Unreadable):
                value = (str(int(read.value)),) if float(read.value).is_integer() else ()
            return {first.name: first.holds(*value)}
        case PointsKey():
            return {first.name: first.holds(*_pixels(naming, response))}
        case TableKey():
            typed, found = read_cells(response), dict[str, Container]()
            for variable, cell in zip(naming.variables, key.cells, strict=True):
                one = Naming((variable,), {})
                found |= given_variables(cell, one, typed.get(cell.id, ""))
            return found
        case TextKey() | WrittenKey():
            said = key.answer_words(response).strip()
            return {first.name: first.holds(*([said] if said else []))}
    return {first.name: first.holds()}


def _named(naming: Naming, texts: Mapping[str, str], ids: list[str]) -> list[str]:
    return [naming.ids[texts[id_]] for id_ in ids if texts.get(id_) in naming.ids]


def _filled(key: SlotsKey, naming: Naming, response: str) -> dict[str, Container]:
    texts = {token.id: token.text for token in key.tokens}
    read = key.read(response)
    found = {} if isinstance(read, str) else read
    filled = {
        place: texts[found[slot.id]] for place, slot in enumerate(key.slots) if slot.id in found
    }
    if naming.each:
        return {
            one.name: one.holds(*([ids[filled[place]]] if filled.get(place) in ids else []))
            for place, (one, ids) in enumerate(zip(naming.variables, naming.each, strict=False))
        }
    pairs = []
    for place, text in filled.items():
        if text in naming.ids and place < len(naming.places):
            pair = (naming.places[place], naming.ids[text])
            pairs.append(" ".join(reversed(pair) if naming.turned else pair))
    first = naming.variables[0]
    return {first.name: first.holds(*pairs)}


def _pixels(naming: Naming, response: str) -> list[str]:
    found = []
    for line in lines(response):
        x, _, y = line.partition(" ")
        try:
            found.append(f"{float(x):.6g} {naming.height - float(y):.6g}")
        except ValueError:
            continue
    return found

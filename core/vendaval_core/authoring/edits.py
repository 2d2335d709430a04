"""A change made in a form, written into the file as its author wrote it.

What nobody changed stays byte for byte as it was: a file is cut into the blocks of its first-level
fields, and only blocks whose value changed are written anew, by a library that keeps comments.
"""

from __future__ import annotations

import io
import re
from collections.abc import Mapping, Sequence
from typing import Any, cast

import yaml
from ruamel.yaml import YAML
from ruamel.yaml.comments import CommentedMap, CommentedSeq
from ruamel.yaml.scalarstring import DoubleQuotedScalarString, LiteralScalarString, ScalarString

from ..errors import UnwritableError

Plain = Any
# Longer lines than any file has: breaking them would change what nobody changed.
WIDTH = 1_000_000
MOST_IN_A_ROW = 72
# Signs have meanings of their own within brackets, which parsers don't agree upon.
_WORDS = re.compile(r"[\w. /+*()-]*")


def rewritten(text: str, data: Mapping[str, Plain]) -> str:
    """Return the text of a YAML mapping with other values in it.

    text: YAML without aliases, as `packs.located` reads it. data: the whole mapping as it is to be
    read from what is returned; fields that are not in it are removed. Raises UnwritableError if
    some value can't be written so that it is read back the same.
    """
    old = yaml.load(text, Loader=yaml.CSafeLoader)
    if same(old, dict(data)):
        return text
    within = _within_blocks(text, old, data)
    if within is not None and _reads_as(within, data):
        return within
    whole = _edited(text, text, old, data)
    kept = [key for key, value in data.items() if key in old and same(old[key], value)]
    for candidate in (_with_old_blocks(text, whole, kept), whole):
        if _reads_as(candidate, data):
            return candidate
    raise UnwritableError


def _edited(part: str, text: str, old: Mapping[str, Plain], new: Mapping[str, Plain]) -> str:
    """A part of a text, all of it or some fields, with other values, in the text's own style."""
    library = _library(text)
    tree = library.load(part)
    _change_mapping(tree, old, new)
    out = io.StringIO()
    library.dump(tree, out)
    return out.getvalue()


def _within_blocks(text: str, old: Mapping[str, Plain], new: Mapping[str, Plain]) -> str | None:
    """The text with each changed field written anew by itself, which is much less to read than the
    whole at every keystroke; None where fields come or go."""
    blocks = _blocks(text)
    if blocks is None or list(old) != list(new) or [key for key in blocks if key] != list(old):
        return None
    for key, value in new.items():
        if not same(old[key], value):
            blocks[key] = _edited(blocks[key], text, {key: old[key]}, {key: value})
    return "".join(blocks.values())


def written(data: Mapping[str, Plain]) -> str:
    """Return data as a new file."""
    tree = CommentedMap()
    for key, value in data.items():
        tree[key] = _fresh(value, None)
    out = io.StringIO()
    _library("").dump(tree, out)
    if not _reads_as(out.getvalue(), data):
        raise UnwritableError
    return out.getvalue()


class _Dumper(yaml.CSafeDumper):
    """Writes texts of several lines as such."""


def _represented(dumper: yaml.CSafeDumper, text: str) -> yaml.ScalarNode:
    style = "|" if "\n" in text else None
    return dumper.represent_scalar("tag:yaml.org,2002:str", text, style=style)


_Dumper.add_representer(str, _represented)


def written_quickly(data: Mapping[str, Plain]) -> str:
    """Return data as a new file, many times quicker and in a plainer style. Raises UnwritableError
    for what would not be read back the same."""
    text = yaml.dump(dict(data), Dumper=_Dumper, allow_unicode=True, sort_keys=False, width=100)
    # Packs are read by the loader that takes fewer letters.
    if yaml.reader.Reader.NON_PRINTABLE.search(text) or not same_but_order(
        yaml.load(text, Loader=yaml.CSafeLoader), dict(data)
    ):
        raise UnwritableError
    return text


def same(one: Plain, other: Plain) -> bool:
    """Whether two plain values are the same, also in the order of keys, and true is not 1."""
    if isinstance(one, Mapping) and isinstance(other, Mapping):
        return list(one) == list(other) and all(same(one[key], other[key]) for key in one)
    if isinstance(one, list | tuple) and isinstance(other, list | tuple):
        return len(one) == len(other) and all(map(same, one, other))
    if isinstance(one, bool) or isinstance(other, bool):
        return one is other
    return bool(one == other)


def _plain(text: str) -> Plain:
    # As packs are read: the faster loader takes some of what this one doesn't.
    return yaml.load(text, Loader=yaml.SafeLoader)


def _library(text: str) -> YAML:
    library = YAML()
    library.preserve_quotes = True
    library.width = WIDTH
    library.allow_unicode = True
    flush = re.search(r"^[\w-]+:[^\S\n]*\n- ", text, re.MULTILINE)
    library.indent(mapping=2, sequence=2 if flush else 4, offset=0 if flush else 2)
    return library


def _reads_as(text: str, data: Mapping[str, Plain]) -> bool:
    try:
        return same_but_order(_plain(text), dict(data))
    except yaml.YAMLError:
        return False


def same_but_order(one: Plain, other: Plain) -> bool:
    """Whether two plain values are the same but for the order of a file's own fields."""
    if not isinstance(one, dict) or not isinstance(other, dict) or one.keys() != other.keys():
        return False
    return all(same(one[key], other[key]) for key in one)


def _change_mapping(node: CommentedMap, old: Mapping[str, Plain], new: Mapping[str, Plain]) -> None:
    for key in [key for key in node if key not in new]:
        del node[key]
    for place, (key, value) in enumerate(new.items()):
        if key in node:
            node[key] = _changed(node[key], old[key], value)
        else:
            node.insert(place, key, _fresh(value, None))
    if list(node) != list(new):
        for key in new:
            node.move_to_end(key)


def _changed(node: Plain, old: Plain, new: Plain) -> Plain:
    """What stands in place of a node: itself, changed within, or something new."""
    if same(old, new):
        return node
    if isinstance(node, CommentedMap) and isinstance(new, Mapping):
        _change_mapping(node, old, new)
        return node
    if isinstance(node, CommentedSeq) and isinstance(new, list | tuple) and new:
        _change_list(node, old, list(new))
        return node
    return _fresh(new, node)


def _change_list(node: CommentedSeq, old: Sequence[Plain], new: list[Plain]) -> None:
    """Keep what is the same at both ends; in between, item by item."""
    shorter = min(len(old), len(new))
    before = next((i for i in range(shorter) if not same(old[i], new[i])), shorter)
    rest = shorter - before
    after = next((i for i in range(rest) if not same(old[-1 - i], new[-1 - i])), rest)
    old_middle, new_middle = len(old) - after, len(new) - after
    for place in range(before, max(old_middle, new_middle)):
        if place < old_middle and place < new_middle:
            node[place] = _changed(node[place], old[place], new[place])
        elif place < new_middle:
            node.insert(place, _fresh(new[place], None))
        else:
            del node[new_middle]


def _fresh(value: Plain, like: Plain) -> Plain:
    """A value as it is written anew, in the style of what stood there."""
    if isinstance(value, str):
        return _text(value, like)
    if isinstance(value, Mapping):
        mapping = CommentedMap((key, _fresh(inner, None)) for key, inner in value.items())
        if not value:
            mapping.fa.set_flow_style()
        return mapping
    if isinstance(value, list | tuple):
        items = CommentedSeq(_fresh(inner, None) for inner in value)
        if _in_a_row(value):
            items.fa.set_flow_style()
        return items
    return value


def _in_a_row(value: Sequence[Plain]) -> bool:
    scalar = all(isinstance(one, bool | int | float) or _is_short(one) for one in value)
    return scalar and sum(len(str(one)) + 2 for one in value) < MOST_IN_A_ROW


def _is_short(one: Plain) -> bool:
    return isinstance(one, str) and bool(_WORDS.fullmatch(one)) and len(one) < MOST_IN_A_ROW // 2


def _text(value: str, like: Plain) -> Plain:
    if "\n" in value and _fits_block(value):
        return LiteralScalarString(value)
    if isinstance(like, ScalarString) and not isinstance(like, LiteralScalarString):
        return type(like)(value)
    if "\n" in value or not _plainly_text(value):
        return DoubleQuotedScalarString(value)
    return value


def _fits_block(value: str) -> bool:
    """Whether a text can stand as it is below a bar."""
    lines = value.split("\n")
    return value.isprintable() or all(
        line == line.rstrip() and not line.startswith(" ") and line.isprintable() for line in lines
    )


def _plainly_text(value: str) -> bool:
    """Whether a text is read as the same text when it is written without quotes."""
    try:
        return cast(bool, _plain(value) == value)
    except yaml.YAMLError:
        # The library sees by itself that it needs quotes.
        return True


def _with_old_blocks(text: str, out: str, kept: Sequence[str]) -> str:
    """Put the old text of fields that nobody changed back into the new file."""
    before, after = _blocks(text), _blocks(out)
    if before is None or after is None:
        return out
    new = [before[name] if name in kept and name in before else own for name, own in after.items()]
    return "".join(new) if "" in after else before.get("", "") + "".join(new)


def _blocks(text: str) -> dict[str, str] | None:
    """The text of each first-level field, up to the next; under "" what stands before the first."""
    root = yaml.compose(text, Loader=yaml.CSafeLoader)
    if not isinstance(root, yaml.MappingNode) or root.flow_style:
        return None
    lines = text.splitlines(keepends=True)
    starts = [(key.value, key.start_mark.line) for key, _ in root.value]
    found = {"": "".join(lines[: starts[0][1]])} if starts and starts[0][1] else {}
    ends = [line for _, line in starts[1:]] + [len(lines)]
    for (name, start), end in zip(starts, ends, strict=True):
        found[name] = "".join(lines[start:end])
    return found

"""The list of films, files and links beside a study page, written as its author wrote it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import yaml

from ..packs.resources import ResourceModel
from .edits import rewritten, written


def listed(text: str, resources: Sequence[ResourceModel]) -> str:
    """Return a list with other resources in it; what stays is as it was written, its fields in
    their order. text: "" if there was no list."""
    fields = [one.model_dump(mode="json", exclude_none=True) for one in resources]
    if not text:
        return written({"resources": fields})
    before = yaml.load(text, Loader=yaml.CSafeLoader)["resources"]
    orders = {one["key"]: list(one) for one in before}
    ordered = [_in_order(one, orders.get(one["key"], [])) for one in fields]
    return rewritten(text, {"resources": ordered})


def _in_order(fields: dict[str, Any], order: Sequence[str]) -> dict[str, Any]:
    names = [name for name in order if name in fields]
    return {name: fields[name] for name in [*names, *fields]}

"""JSON columns whose content is a pydantic model: checked when read and when written."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from types import FunctionType
from typing import Any

from django.db import models
from pydantic import TypeAdapter


class ModelColumn(models.JSONField):
    """A JSON column of one type: a pydantic model, or anything a TypeAdapter takes.

    kind: the type, or a function that makes it once all apps are loaded. An empty column is made
    by `default`, as for every field of Django.
    """

    def __init__(self, kind: Any = Any, **options: Any) -> None:
        self.kind = kind
        self._adapter: TypeAdapter[Any] | None = None
        super().__init__(**options)

    @property
    def adapter(self) -> TypeAdapter[Any]:
        """Made when first needed, so that importing models builds no validators."""
        if self._adapter is None:
            lazy = isinstance(self.kind, FunctionType)
            self._adapter = TypeAdapter(self.kind() if lazy else self.kind)
        return self._adapter

    def deconstruct(self) -> tuple[str, str, Sequence[Any], dict[str, Any]]:
        """A migration knows a JSON column: what is in it is for the code of the day to say."""
        name, _, args, options = super().deconstruct()
        options.pop("kind", None)
        if callable(options.get("default")):
            options["default"] = dict
        return name, "django.db.models.JSONField", args, options

    def from_db_value(self, value: Any, expression: Any, connection: Any) -> Any:
        data = super().from_db_value(value, expression, connection)
        return None if data is None else self.adapter.validate_python(data)

    def get_prep_value(self, value: Any) -> Any:
        if value is None or hasattr(value, "resolve_expression"):
            return value
        return super().get_prep_value(self.adapter.dump_python(value, mode="json"))


def column(kind: Any, default: Callable[[], Any] | None = None) -> Any:
    """A column of a pydantic type, null where it has no default."""
    if default is None:
        return ModelColumn(kind, null=True)
    return ModelColumn(kind, default=default)

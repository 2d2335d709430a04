"""Errors of the core. Each has a stable `code`, used unchanged by the API."""

from __future__ import annotations


class CoreError(Exception):
    """A rule of the job was broken by the caller."""

    code = "core_error"


class OutOfRange(CoreError):
    """A number lies outside the range that a function accepts."""

    code = "out_of_range"


class ExpressionError(CoreError):
    """An expression of a family cannot be read or evaluated."""

    code = "expression_error"


class FamilyError(CoreError):
    """A family cannot make a version; `where` names the field."""

    code = "family_error"

    def __init__(self, where: str, what: str) -> None:
        super().__init__(f"{where}: {what}")
        self.where = where
        self.what = what


class NothingToAsk(CoreError):
    """No family is left that may be presented."""

    code = "nothing_to_ask"

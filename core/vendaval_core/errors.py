"""Errors of the core. Each has a stable `code`, used unchanged by the API."""

from __future__ import annotations

from vendaval_core.language import gettext


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


class UnwritableError(CoreError):
    """A value cannot be written into a file so that it is read back the same."""

    code = "unwritable"

    def __init__(self) -> None:
        super().__init__(gettext("This can’t be written into the file."))


class MergingError(CoreError):
    """Two topics can't be put together as they are."""

    code = "merging"


class ArchiveError(CoreError):
    """An archive can't be read, or isn't safe to be unpacked."""

    code = "archive"


class VariableNameError(CoreError):
    """A variable can't be called that."""

    code = "variable_name"


class AlgebraNotReady(CoreError):
    """Formulas could not be worked out in time, which says nothing of whose they are."""

    code = "algebra_not_ready"


class NothingToAsk(CoreError):
    """No family is left that may be presented."""

    code = "nothing_to_ask"


class TableInvalid(CoreError):
    """A table of responses cannot be calibrated; `problems` says everything that is wrong."""

    code = "table_invalid"

    def __init__(self, problems: list[str]) -> None:
        super().__init__("\n".join(problems))
        self.problems = problems


class DoesNotSettle(CoreError):
    """An estimation did not come to rest."""

    code = "does_not_settle"

"""The judgements of the measurement as the application uses them."""

from vendaval_core.measure.change import ChangeSettings

CHANGE = ChangeSettings()

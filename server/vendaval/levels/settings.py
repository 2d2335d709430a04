"""The judgements of the measurement as the application uses them."""

from vendaval_core.measure.kernels import ChangeSettings

CHANGE = ChangeSettings()

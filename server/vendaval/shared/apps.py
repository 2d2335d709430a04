"""What holds for every process of the application."""

import sys

from django.apps import AppConfig
from django.conf import settings
from django.utils import translation

from vendaval_core.items.formulas.workers import FormulaWorkers
from vendaval_core.language import translate_with


class SharedConfig(AppConfig):
    name = "vendaval.shared"

    def ready(self) -> None:
        translate_with(translation)
        FormulaWorkers.patience = settings.PATIENCE
        from .running import share_database

        if "restore" not in sys.argv[1:2]:
            share_database()

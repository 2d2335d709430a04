"""The test runner: Django's own, the longest classes first, so that no core idles at the end."""

from __future__ import annotations

from multiprocessing import current_process
from pathlib import Path
from typing import Any

from django.conf import settings
from django.test.runner import DiscoverRunner, ParallelTestSuite


def _own_locks(*arguments: Any) -> None:
    """A worker with locks of its own: the first learner of each database has the same number."""
    ParallelTestSuite.init_worker(*arguments)
    settings.LOCKS = Path(settings.LOCKS) / current_process().name


class LongestFirst(ParallelTestSuite):
    """Classes that say how many seconds they take, `lasts`, begin before the others."""

    init_worker = _own_locks

    def __init__(self, subsuites: list[Any], *arguments: Any, **options: Any) -> None:
        ordered = sorted(subsuites, key=lambda suite: -self.lasts(suite))
        super().__init__(ordered, *arguments, **options)

    @staticmethod
    def lasts(suite: Any) -> float:
        """Seconds that a class says it takes, 0 for most."""
        return max((getattr(test, "lasts", 0.0) for test in suite), default=0.0)


class Runner(DiscoverRunner):
    """Runs test classes in parallel, the longest first."""

    parallel_test_suite = LongestFirst

    def setup_databases(self, **options: Any) -> Any:
        """New databases, without what a run that was stopped left half written."""
        for journal in settings.VAR.glob("test*.sqlite3-journal"):
            journal.unlink()
        return super().setup_databases(**options)

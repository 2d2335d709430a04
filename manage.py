#!/usr/bin/env python
"""Django's command line for Vendaval."""

import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent
sys.path[:0] = [str(ROOT / "core"), str(ROOT / "server"), str(ROOT)]


def main() -> None:
    default = (
        "vendaval.config.settings.test"
        if sys.argv[1:2] == ["test"]
        else "vendaval.config.settings.dev"
    )
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", default)
    os.environ.setdefault("OMP_NUM_THREADS", "1")
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()

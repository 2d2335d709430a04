"""Commands of the stand-ins."""

import os
import sys
from pathlib import Path

from django.core.management import execute_from_command_line

if __name__ == "__main__":
    # In the place of this folder, whose names are those of modules everybody has.
    sys.path[0] = str(Path(__file__).resolve().parents[1])
    os.environ["DJANGO_SETTINGS_MODULE"] = "standins.settings"
    execute_from_command_line(sys.argv)

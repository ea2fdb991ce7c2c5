"""Django's command line for this project."""

import os
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]


# A script's own folder comes first on the path; there the calendar room would stand before Python's own calendar module.
sys.path[:] = [p for p in sys.path if Path(p).resolve() != Path(__file__).resolve().parent]


def main() -> None:
    sys.path[:0] = [str(ROOT), str(ROOT / "core")]
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.site.settings")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()

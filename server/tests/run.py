"""Run every test on Django's runner: core, server and browser. The closing line counts them."""

import os
import sys
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[2]
sys.path[:0] = [str(ROOT), str(ROOT / "core")]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.site.settings")

import django

django.setup()

from django.test.runner import DiscoverRunner, iter_test_cases


def _long(group: Any) -> int:
    """About how long a group of tests takes: those that drive a browser or start processes take twenty times as long."""
    tests = list(iter_test_cases(group))
    return len(tests) * (20 if tests[0].__module__.startswith("server.tests") else 1)


class CountingRunner(DiscoverRunner):
    """Django's runner that keeps the result for the closing line."""

    result: Any = None

    def build_suite(self, *args: Any, **kwargs: Any) -> Any:
        """The long groups first, so that none is left running alone at the end."""
        suite = super().build_suite(*args, **kwargs)
        if hasattr(suite, "subsuites"):
            suite.subsuites.sort(key=_long, reverse=True)
        return suite

    def run_suite(self, suite: Any, **kwargs: Any) -> Any:
        self.result = super().run_suite(suite, **kwargs)
        return self.result


def main() -> int:
    runner = CountingRunner(verbosity=1, interactive=False, top_level=str(ROOT), parallel=2)
    labels = sys.argv[1:] or ["core/tests", "server"]
    failures: int = runner.run_tests(labels)
    r = runner.result
    failed = len(r.failures) + len(r.errors) + len(r.unexpectedSuccesses)
    skipped = len(r.skipped)
    print(f"{r.testsRun - failed - skipped} passed, {failed} failed, {skipped} skipped")
    return 1 if failures else 0


if __name__ == "__main__":
    sys.exit(main())

"""The floors hold: each contract is proved by a planted violation. Answers are what the API document says."""

import json
import os
import re
import shutil
import subprocess
import sys
import tempfile
import tokenize
import unittest
from pathlib import Path
from typing import Any

import jsonschema
from django.conf import settings

from server.tests.base import LedgerTest

ROOT: Path = settings.ROOT
PLANTS = (
    ("core/dryledger/budget/money.py", "import django"),
    ("core/dryledger/value/curve.py", "import server.plan.models"),
    ("core/dryledger/marks/marks.py", "import time"),
    ("core/dryledger/calendar/calendar.py", "from dryledger.value.earned import earned_share"),
    ("core/dryledger/budget/money.py", "from dryledger.changes import apply"),
    ("core/dryledger/stray.py", "STRAY = 1"),
    ("server/shared/plain.py", "def late():\n    from server.book import models"),
    ("server/accounts/roles.py", "import server.book.access as access"),
    ("server/book/read.py", "from server.journal import steps"),
    ("server/journal/steps.py", "from server.plan import \\\n    sheet"),
    ("server/plan/sheet.py", "from server.baseline import selectors"),
    ("server/value/selectors.py", "from server.posting import sheet"),
    ("server/calendar/api.py", "from server.site import urls"),
    ("server/stray/__init__.py", "STRAY = 1"),
)
"""A line that each contract forbids, and a module that stands nowhere in the order."""
WEB_PLANTS = {
    "shared/one.ts": 'export * from "../features/plan";',
    "api/two.ts": 'const late = () => import(\n  "../app/Shell"\n);',
    "features/plan/three.tsx": "import {\n  a,\n  b,\n} from '../budget/inside';",
    "features/plan/four.tsx": 'import type { A } from "../../app/routes";',
}


def contracts(folder: Path) -> int:
    """Exit code of the import contracts in a copy of the project."""
    command = [str(Path(sys.executable).parent / "lint-imports"), "--config", "pyproject.toml", "--no-cache"]
    return subprocess.run(
        command, cwd=folder, env={"PYTHONPATH": f"{folder / 'core'}:{folder}", "PATH": "/usr/bin:/bin"}, capture_output=True
    ).returncode


class Floors(unittest.TestCase):
    def test_planted_violations_are_found(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            for part in ("core/dryledger", "server"):
                shutil.copytree(ROOT / part, folder / part, ignore=shutil.ignore_patterns("__pycache__"))
            shutil.copy(ROOT / "pyproject.toml", folder)
            self.assertEqual(contracts(folder), 0)
            for path, line in PLANTS:
                (folder / path).parent.mkdir(exist_ok=True)
                kept = (folder / path).read_text() if (folder / path).exists() else ""
                (folder / path).write_text(f"{kept}\n{line}\n")
                self.assertNotEqual(contracts(folder), 0, line)
                (folder / path).write_text(kept)
                if not kept:
                    shutil.rmtree((folder / path).parent) if path.endswith("__init__.py") else (folder / path).unlink()

    def test_features_are_entered_by_their_door(self) -> None:
        self.assertEqual(doors_missed(ROOT / "web" / "src"), [])
        with tempfile.TemporaryDirectory() as name:
            for file, text in WEB_PLANTS.items():
                path = Path(name) / file
                path.parent.mkdir(parents=True, exist_ok=True)
                path.write_text(text)
            self.assertEqual(sorted({file for file, _ in doors_missed(Path(name))}), sorted(WEB_PLANTS))

    def test_tables_are_drawn_by_the_kit(self) -> None:
        source = ROOT / "web" / "src"
        raw = re.compile(r"<(table|thead|tbody|tr|td|th)[ >]")
        found = {str(f.relative_to(source)) for f in source.rglob("*.tsx") if raw.search(f.read_text())}
        self.assertEqual(found, {"shared/ui/DataTable.tsx"})


def doors_missed(source: Path) -> list[tuple[str, str]]:
    """Files of the web page that take something from where they should not, and what: parsed, however it is written."""
    script = ROOT / "web" / "tests" / "imports.mjs"
    told = subprocess.run(["node", script, source], cwd=ROOT / "web", capture_output=True, check=True, text=True)
    taken: dict[str, list[str]] = json.loads(told.stdout)
    return [
        (file, target) for file, targets in taken.items() for target in targets if target.startswith(".") and not _by_door(file, target)
    ]


def _by_door(file: str, target: str) -> bool:
    here = file.split("/")
    reached = os.path.normpath(os.path.join(os.path.dirname(file), target)).split("/")
    if here[0] in ("shared", "api"):
        return reached[0] not in ("features", "app")
    if here[0] == "features":
        return reached[0] in ("api", "shared") or (reached[0] == "features" and (reached[1:2] == here[1:2] or len(reached) == 2))
    return True


class Answers(LedgerTest):
    def holds(self, answer: Any, schema: Any) -> None:
        """Fails where an answer is not of a shape, in words of its own: those of the library can't pass between processes."""
        wrong = next(jsonschema.Draft202012Validator(schema).iter_errors(answer), None)
        if wrong is not None:
            self.fail(f"{schema.get('$ref')}: {wrong.json_path}: {wrong.message[:300]}")

    def test_answers_keep_to_the_api_document(self) -> None:
        document: Any = json.loads((ROOT / "docs" / "formats" / "openapi.json").read_text())
        text = json.dumps(document).replace('"nullable": true', '"x-nullable": true')
        document = _nullable(json.loads(text))
        for path, name in (
            ("posting", "Sheet"),
            ("value", "ValueOut"),
            ("curve", "CurveOut"),
            ("balance", "BalanceOut"),
            ("timeline", "TimelineOut"),
            ("report", "ReportOut"),
            ("activities/A150", "ActivityOut"),
            ("working?measure=eac", "WorkingOut"),
        ):
            answer = self.call("get", f"projects/FERRY/pages/now/{path}")
            self.holds(answer, {"$ref": f"#/components/schemas/{name}", "components": document["components"]})
        for path, name in (
            ("plan", "PlanOut"),
            ("plan/lists", "ListsOut"),
            ("about", "ProjectPage"),
            ("budget", "BudgetOut"),
            ("loads", "LoadsOut"),
            ("estimates/try?total=100", "EstimateOut"),
            ("baselines", "ShelfOut"),
            ("baselines/differences?earlier=B0&later=now", "DifferencesOut"),
        ):
            answer = self.call("get", f"projects/FERRY/{path}")
            self.holds(answer, {"$ref": f"#/components/schemas/{name}", "components": document["components"]})
        effect = self.post_entry("A150", percent="40")
        self.holds(effect, {"$ref": "#/components/schemas/Effect", "components": document["components"]})


def _nullable(value: Any) -> Any:
    """OpenAPI 3.0's nullable as JSON Schema says it."""
    if isinstance(value, list):
        return [_nullable(v) for v in value]
    if not isinstance(value, dict):
        return value
    out = {k: _nullable(v) for k, v in value.items()}
    return {"anyOf": [out, {"type": "null"}]} if out.pop("x-nullable", False) else out


class Names(unittest.TestCase):
    """Words that once stood for many things at a time, and may not come back as names of what is ours."""

    FORBIDDEN = {"said", "plain", "around", "turn", "turned", "live", "lay_out", "Layout", "Around", "Beside", "Recent", "Turn", "Plain"}

    def test_no_name_is_one_that_says_nothing(self) -> None:
        found = []
        for top in ("core", "server", "demo", "stand_ins"):
            for file in sorted((ROOT / top).rglob("*.py")):
                if "migrations" in file.parts:
                    continue
                with file.open() as text:
                    names = {t.string for t in tokenize.generate_tokens(text.readline) if t.type == tokenize.NAME}
                found += [f"{file.relative_to(ROOT)}: {name}" for name in sorted(names & self.FORBIDDEN)]
        written = re.compile(r"\b(?:const|let|function|class|type|interface)\s+(?:\[\w+, )?(\w+)")
        for top in ("src", "tests"):
            for file in sorted((ROOT / "web" / top).rglob("*.ts*")):
                names = set(written.findall(file.read_text())) & (self.FORBIDDEN | {"layout"})
                found += [f"{file.relative_to(ROOT)}: {name}" for name in sorted(names)]
        self.assertEqual(found, [])

    def test_what_is_kept_is_typed_and_no_fault_is_hidden(self) -> None:
        """No pickles, no memory of anything by anything, nothing broad that is caught."""
        for top in ("core/dryledger", "core/commands", "server"):
            for file in sorted((ROOT / top).rglob("*.py")):
                if "tests" not in file.parts:
                    text = file.read_text()
                    if file.name != "forms.py":
                        self.assertNotIn("query_params", text, f"{file}: what is asked is read by a form")
                    for word in ("pickle", "dict[object, object]", "except Exception", "except:", "suppress("):
                        self.assertNotIn(word, text, file)

"""The floors hold: each contract is proved by a planted violation. Answers are what the API document says."""

import json
import shutil
import subprocess
import sys
import tempfile
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
)


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
                kept = (folder / path).read_text()
                (folder / path).write_text(f"{kept}\n{line}\n")
                self.assertNotEqual(contracts(folder), 0, line)
                (folder / path).write_text(kept)

    def test_features_are_entered_by_their_door(self) -> None:
        for file in (ROOT / "web" / "src").rglob("*.ts*"):
            room = file.relative_to(ROOT / "web" / "src").parts
            for line in file.read_text().splitlines():
                if "import" not in line or 'from "' not in line:
                    continue
                target = line.split('from "')[1].split('"')[0]
                if room[0] in ("shared", "api"):
                    self.assertNotIn("features/", target, file)
                    self.assertNotIn("/app/", target, file)
                if room[0] == "features" and target.startswith("."):
                    reached = (file.parent / target).resolve().relative_to(ROOT / "web" / "src").parts
                    at_door = reached[0] in ("api", "shared") or reached[1] == room[1] or len(reached) == 2
                    self.assertTrue(at_door, f"{file} takes {target}: enter a room by its index.ts")


class Answers(LedgerTest):
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
            jsonschema.validate(answer, {"$ref": f"#/components/schemas/{name}", "components": document["components"]})
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
            jsonschema.validate(answer, {"$ref": f"#/components/schemas/{name}", "components": document["components"]})
        effect = self.post_entry("A150", percent="40")
        jsonschema.validate(effect, {"$ref": "#/components/schemas/Effect", "components": document["components"]})


def _nullable(value: Any) -> Any:
    """OpenAPI 3.0's nullable as JSON Schema says it."""
    if isinstance(value, list):
        return [_nullable(v) for v in value]
    if not isinstance(value, dict):
        return value
    out = {k: _nullable(v) for k, v in value.items()}
    return {"anyOf": [out, {"type": "null"}]} if out.pop("x-nullable", False) else out

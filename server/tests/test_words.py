"""The catalogues of sentences: every key that is asked for is there with the values it names, and none is left over."""

import ast
import re
import string
import unittest
from collections.abc import Iterator, Mapping
from pathlib import Path

from django.conf import settings

from dryledger import words as core_words
from server.shared import words as server_words

ROOT: Path = settings.ROOT
CATALOGUES = ("words.py", "fault_words.py", "file_words.py", "asking_words.py")
FLOORS: dict[str, Mapping[str, str]] = {"core/dryledger": core_words.SENTENCES, "server": server_words.SENTENCES}


def calls(folder: str) -> Iterator[tuple[str, ast.Call]]:
    for path in sorted((ROOT / folder).rglob("*.py")):
        if "tests" in path.parts:
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "sentence":
                yield f"{path.relative_to(ROOT)}:{node.lineno}", node


class Words(unittest.TestCase):
    def test_keys_and_values_agree(self) -> None:
        for folder, sentences in FLOORS.items():
            texts = "".join(p.read_text() for p in (ROOT / folder).rglob("*.py") if p.name not in CATALOGUES)
            families = [_family(call.args[0]) for _, call in calls(folder) if isinstance(call.args[0], ast.JoinedStr)]
            for key in sentences:
                stated = f'"{key}"' in texts or any(f.fullmatch(key) for f in families)
                self.assertTrue(stated, f"{folder}: nobody says {key}")
            for family in families:
                self.assertTrue(any(family.fullmatch(key) for key in sentences), f"{folder}: no sentence is called {family.pattern}")
            for place, call in calls(folder):
                key = call.args[0]
                if not isinstance(key, ast.Constant):
                    continue
                self.assertIn(key.value, sentences, place)
                named = {name for _, name, _, _ in string.Formatter().parse(sentences[key.value]) if name is not None}
                self.assertEqual(named, {k.arg for k in call.keywords}, place)

    def test_no_sentence_is_raised_but_from_the_catalogue(self) -> None:
        loose = []
        for folder in FLOORS:
            for path in sorted((ROOT / folder).rglob("*.py")):
                if "tests" in path.parts or "management" in path.parts:
                    continue
                for node in ast.walk(ast.parse(path.read_text())):
                    if isinstance(node, ast.Call) and getattr(node.func, "id", "") in ("Refused", "EntryRefused", "ChangeRefused", "Fault"):
                        texts = [n for a in node.args for n in ([a] if isinstance(a, ast.Constant | ast.JoinedStr) else [])]
                        if any(" " in ast.unparse(t).strip("'\" ") for t in texts if not _is_place(t)):
                            loose.append(f"{path.relative_to(ROOT)}:{node.lineno}")
        self.assertEqual(loose, [])


def _family(key: ast.JoinedStr) -> re.Pattern[str]:
    """The keys that a key with a part to be filled in stands for."""
    parts = [re.escape(str(v.value)) if isinstance(v, ast.Constant) else "[a-z_]+" for v in key.values]
    return re.compile("".join(parts))


def _is_place(node: ast.expr) -> bool:
    """Whether a text is the path of a value, in which names stand in braces but no words side by side."""
    values = node.values if isinstance(node, ast.JoinedStr) else [node]
    return not any(" " in str(v.value) for v in values if isinstance(v, ast.Constant))

"""The examples in the docstrings of the core run, and every public name has a docstring."""

import ast
import doctest
import importlib
import pkgutil
import unittest
from pathlib import Path

import dryledger

MODULES = [m.name for m in pkgutil.walk_packages(dryledger.__path__, "dryledger.")]


class Examples(unittest.TestCase):
    def test_every_example_runs(self) -> None:
        tried = 0
        for name in MODULES:
            found = doctest.testmod(importlib.import_module(name))
            self.assertEqual(found.failed, 0, name)
            tried += found.attempted
        self.assertGreater(tried, 25)

    def test_every_public_name_says_what_it_is(self) -> None:
        for path in Path(dryledger.__path__[0]).rglob("*.py"):
            tree = ast.parse(path.read_text())
            self.assertTrue(ast.get_docstring(tree), path.name)
            for node in tree.body:
                inner = node.body if isinstance(node, ast.ClassDef) and not node.name.startswith("_") else []
                for x in (node, *inner):
                    if isinstance(x, (ast.FunctionDef, ast.ClassDef)) and not x.name.startswith("_"):
                        hidden = isinstance(node, ast.ClassDef) and node.name.startswith("_")
                        self.assertTrue(hidden or ast.get_docstring(x), f"{path.name}: {x.name}")

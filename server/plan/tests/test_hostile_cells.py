"""Cells, verbs and names that no page would send: refused in words, never with a fault of the program, and nothing done."""

from typing import Any

from dryledger.changes.keyed import LETTERS
from dryledger.changes.parts import LIST_CELLS
from dryledger.changes.verbs import VERBS
from dryledger.entry.cells import CELLS
from server.book.models import Activity, Assignment, Calendar, DirectCost, Link, Project, RegisterEntry, Resource, WbsElement
from server.plan.tests.test_changes import Plans, Verb

ODD: tuple[Any, ...] = (
    None,
    "",
    "x",
    " ",
    "\x00",
    "‮gnp.exe",
    "=1+1",
    "9" * 400,
    "y" * 30_000,
    0,
    -1,
    1e308,
    10**30,
    True,
    [],
    ["x"],
    [None],
    [[]],
    [5],
    {},
    {"a": 1},
    {"type": 5},
    {"type": "milestones", "weights": "x"},
    {"type": "milestones", "weights": [{"name": 5, "weight": "x", "at": None}]},
    {"type": "apportioned", "base": "NOBODY"},
    {"type": "start_share", "share": "lots"},
    {"type": "must_start_on", "at": "never"},
    {"mon": "8-25"},
    {"mon": ["x"], "noday": ["08:00-09:00"]},
    [{}],
    [{"from": 5}],
    [{"from": "x", "to": "y"}],
    [{"from": "1 jan 9999", "to": "31 dec 9999", "amount": "1", "per": "light year"}],
)


class Hostile(Plans):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in("lorcan")

    def answer(self, *verbs: Any) -> int:
        """The status of an answer to verbs; what is refused says why."""
        body = {"revision": self.revision, "verbs": list(verbs), "preview": False}
        got = self.client.post(f"/api/projects/{self.code}/plan/changes", body, content_type="application/json")
        told = got.json()
        if got.status_code == 200:
            self.revision = told["revision"]
        else:
            self.assertTrue(told["detail"].strip(), verbs)
            self.assertNotRegex(told["detail"], r"Traceback|Error\b|object has no|NoneType|<class", verbs)
        return got.status_code

    def rows(self) -> dict[str, tuple[str, set[str]]]:
        """A row of each kind by name, with the fields that can be written in it."""
        project = Project.objects.get(code=self.code)
        first = {
            "activities": Activity.objects.filter(project=project, code="A550").get(),
            "wbs": WbsElement.objects.filter(project=project).first(),
            "links": Link.objects.filter(project=project).first(),
            "assignments": Assignment.objects.filter(project=project).first(),
            "costs": DirectCost.objects.filter(project=project).first(),
            "resources": Resource.objects.filter(project=project).first(),
            "risks": RegisterEntry.objects.filter(project=project, register="risks").first(),
            "fields": RegisterEntry.objects.filter(project=project, register="fields").first(),
            "project": project,
            "calendars": Calendar.objects.filter(project=project).last(),
        }
        letters = {name: letter for letter, names in LETTERS.items() for name in names} | {"project": "p"}
        known = {name: set(CELLS[name]) | (set(LIST_CELLS) if name == "activities" else set()) for name in first}
        known["activities"] |= {"fields.deck", "fields.permit", "fields.day_rate", "fields.none"}
        return {f"{letters[name]}{row.pk}": (name, known[name]) for name, row in first.items() if row is not None}

    def test_any_value_in_any_cell(self) -> None:
        self.revision = self.plan()["revision"]
        told = 0
        for name, (kind, fields) in self.rows().items():
            for field in sorted(fields - ({"code"} if kind == "project" else set())):  # the address of all that follows
                told += 1
                for value in ODD[told % 3 :: 3]:  # each value in every third cell, each cell every third value
                    status = self.answer({"do": "set", "row": name, "cells": {field: value}})
                    self.assertIn(status, (200, 409, 422), (kind, field, value))
        self.assertGreater(len(self.plan()["rows"]), 50)

    def test_any_words_of_any_verb(self) -> None:
        self.revision = self.plan()["revision"]
        keys = (
            "row",
            "rows",
            "cells",
            "list",
            "after",
            "parent",
            "lines",
            "resource",
            "by",
            "estimate",
            "from",
            "to",
            "activity",
            "name",
            "total",
            "percent",
            "top",
            "measure",
            "as",
            "first",
        )
        values: tuple[Any, ...] = (None, "a0", "zz9", 5, [None], {}, [{"level": "x"}])
        for do in VERBS:
            for key in keys:
                for value in values:
                    self.assertIn(self.answer({"do": do, key: value}), (200, 400, 404, 409, 422), (do, key, value))
        for odd in ("", None, 5, [], {}):
            self.assertEqual(self.answer({"do": odd}), 400)
        for nonsense in (None, 5, "x", [], [[]]):
            self.assertIn(self.answer(nonsense), (400, 422), nonsense)
        good: Verb = {"do": "set", "row": f"a{Activity.objects.get(code='A550', project__code=self.code).pk}", "cells": {"name": "Good"}}
        before = self.plan()
        self.assertNotEqual(self.answer(good, {"do": "explode"}), 200)
        self.assertEqual(self.plan(), before)

"""Each verb on rows other than activities' own cells: what it does, what it refuses in words, and that it is undone to the byte."""

from typing import Any

from server.book.models import Activity, Assignment, Link
from server.journal.models import Step
from server.plan.tests.test_changes import Plans, Verb


class Verbs(Plans):
    """On a small project of its own."""

    def setUp(self) -> None:
        super().setUp()
        self.begin()
        rates = [{"from": "1 jan 2027", "amount": "50", "per": "hour"}]
        self.change({"do": "add", "list": "resources", "cells": {"name": "Fitters", "code": "FIT", "units": "6", "rates": rates}})
        self.change({"do": "add", "list": "resources", "cells": {"name": "Ada Quell", "code": "ADA", "rates": rates}})
        self.outline("Ground\n  Dig|2d\n  Pour|1d\n  Cure|4d\nSteel\n  Erect|5d\n  Paint|3d\n")

    def id(self, name: str) -> str:
        return str(self.row(name)["id"])

    def resource(self, code: str) -> str:
        return next(str(r["id"]) for r in self.plan()["resources"] if r["code"] == code)

    def done_and_undone(self, *verbs: Verb) -> Any:
        """Do verbs as one step; undone it is the book before, done again the book after."""
        before, steps = self.book(), Step.objects.count()
        answer = self.change(*verbs)
        after = self.book()
        self.assertEqual(Step.objects.count(), steps + 1)
        self.assertNotEqual(after, before)
        self.undo_or_redo("undo")
        self.assertEqual(self.book(), before)
        self.undo_or_redo("redo")
        self.assertEqual(self.book(), after)
        return answer

    def refused(self, *verbs: Verb, saying: str, status: int = 422, field: str | None = None) -> None:
        """Refused in words, and nothing is changed by it, not even by what came before it in the step."""
        before = self.book()
        answer = self.change({"do": "set", "row": self.id("Dig"), "cells": {"name": "Dug"}}, *verbs, status=status)
        self.assertIn(saying, answer["detail"])
        if field:
            self.assertEqual(answer["field"], field)
        self.assertEqual(self.book(), before)


class Links(Verbs):
    def test_a_link_is_added_changed_and_taken_out(self) -> None:
        dig, pour = self.id("Dig"), self.id("Pour")
        self.done_and_undone({"do": "add", "list": "links", "from": dig, "to": pour, "cells": {}, "as": "k"})
        self.assertEqual(self.row("Pour")["after"], self.row("Dig")["code"])
        link = f"l{Link.objects.get(project__code='QUAY').pk}"
        for typed, words, start in (
            ({"type": "ss"}, " SS", "2027-01-04T08:00"),
            ({"lag": "2d"}, " SS lag 2d", "2027-01-06T08:00"),
            ({"lag": "5h", "lag_basis": "elapsed"}, " SS lag 5h by the clock", "2027-01-04T13:00"),
            ({"type": "FS", "lag": "0", "lag_basis": "working"}, "", "2027-01-06T08:00"),
            ({"lag": "-1d"}, " lead 1d", "2027-01-05T08:00"),
        ):
            self.done_and_undone({"do": "link", "row": link, "cells": typed})
            self.assertEqual(self.row("Pour")["after"], self.row("Dig")["code"] + words)
            self.assertEqual(self.row("Pour")["start"], start, words)
        self.done_and_undone({"do": "remove", "rows": [link]})
        self.assertEqual(self.row("Pour").get("after", ""), "")

    def test_what_a_link_can_not_be(self) -> None:
        dig, pour, ground = self.id("Dig"), self.id("Pour"), self.id("Ground")
        self.change({"do": "add", "list": "links", "from": dig, "to": pour, "cells": {}})
        link = f"l{Link.objects.get(project__code='QUAY').pk}"
        add = {"do": "add", "list": "links", "cells": {}}
        self.refused(add | {"from": dig, "to": dig}, saying="can't be its own predecessor")
        self.refused(add | {"from": dig, "to": pour}, saying="“Dug” is a predecessor of")
        self.refused(add | {"from": pour, "to": dig}, saying="Dig → A110 Pour → A100 Dig")
        self.refused({"do": "link", "row": link, "cells": {"type": "XX"}}, saying="FS, SS, FF and SF", field="type")
        self.refused({"do": "link", "row": link, "cells": {"lag": "some"}}, saying="“some”", field="lag")
        self.refused(add | {"from": ground, "to": pour}, saying="", status=400)
        self.refused(add | {"from": "a999999", "to": pour}, saying="not there any more", status=409)

    def test_a_chain(self) -> None:
        names = ("Dig", "Pour", "Cure", "Erect")
        self.done_and_undone({"do": "chain", "rows": [self.id("Ground"), *map(self.id, names)]})
        self.assertEqual([self.row(n)["start"][8:10] for n in names], ["04", "06", "07", "13"])
        self.change({"do": "chain", "rows": [self.id("Dig"), self.id("Pour"), self.id("Paint")]})  # the first link is there
        self.assertEqual(Link.objects.filter(project__code="QUAY").count(), 4)
        self.refused({"do": "chain", "rows": [self.id("Dig"), self.id("Ground")]}, saying="two activities or more")
        self.refused({"do": "chain", "rows": [self.id("Erect"), self.id("Dig")]}, saying="loop")


class People(Verbs):
    def test_one_goes_on_many_and_is_replaced_everywhere(self) -> None:
        fit, ada = self.resource("FIT"), self.resource("ADA")
        rows = [self.id(n) for n in ("Dig", "Pour", "Ground", "Cure")]
        answer = self.done_and_undone({"do": "assign", "resource": fit, "rows": rows, "cells": {"units": "2"}})
        self.assertEqual(answer["label"], "assigned Fitters to 3 activities")
        self.change({"do": "assign", "resource": fit, "rows": rows[:1], "cells": {"units": "3"}})
        self.assertEqual([self.row(n)["people"] for n in ("Dig", "Pour")], ["FIT 3", "FIT 2"])
        self.change({"do": "set", "row": rows[0], "cells": {"people": "FIT 3; ADA"}})
        self.done_and_undone({"do": "replace", "resource": fit, "by": ada})
        self.assertEqual([self.row(n)["people"] for n in ("Dig", "Pour")], ["ADA 4", "ADA 2"])
        self.assertEqual(self.row("Pour")["cost"], "800.00")  # 8 h of two at 50

    def test_what_can_not_be_done_with_people(self) -> None:
        fit, ada, dig = self.resource("FIT"), self.resource("ADA"), self.id("Dig")
        self.change({"do": "set", "row": dig, "cells": {"people": "FIT; ADA"}})
        hours = Assignment.objects.get(resource__code="FIT", activity__name="Dig")
        self.change({"do": "set", "row": f"s{hours.pk}", "cells": {"work": "12h"}})
        self.refused({"do": "replace", "resource": fit, "by": ada}, saying="with hours of its own", status=409)
        self.refused({"do": "replace", "resource": fit, "by": fit}, saying="Choose two resources")
        self.refused({"do": "replace", "resource": fit, "by": dig}, saying="what stands in “by”", status=400)
        self.refused({"do": "add", "list": "assignments", "activity": dig, "resource": fit}, saying="is assigned to “Dug” already")
        self.refused({"do": "assign", "resource": fit, "rows": [dig], "cells": {"units": "many"}}, saying="“many”")
        self.refused({"do": "remove", "rows": [fit]}, saying="is assigned to 1 activity", status=409)
        self.change({"do": "set", "row": dig, "cells": {"people": ""}})
        self.done_and_undone({"do": "remove", "rows": [fit]})


class Codes(Verbs):
    def test_what_names_a_row_follows_its_new_code(self) -> None:
        dig, pour, ground = self.id("Dig"), self.id("Pour"), self.id("Ground")
        old = self.row("Dig")["code"]
        self.change({"do": "set", "row": pour, "cells": {"after": f"{old} lag 1d", "value_method": {"type": "apportioned", "base": old}}})
        self.change({"do": "element", "rows": [dig, pour], "name": "Footing"})
        self.change({"do": "set", "row": self.id("Dig"), "cells": {"people": "FIT 2"}})
        self.done_and_undone({"do": "set", "row": dig, "cells": {"code": "D-1"}})
        self.assertEqual(self.row("Pour")["after"], "D-1 lag 1d")
        self.assertEqual(Activity.objects.get(project__code="QUAY", name="Pour").value_method["base"], "D-1")
        self.done_and_undone({"do": "set", "row": ground, "cells": {"code": "G"}})
        self.assertEqual(self.tree()[:4], [(0, "Ground"), (1, "Footing"), (2, "Dig"), (2, "Pour")])
        self.done_and_undone({"do": "set", "row": self.resource("FIT"), "cells": {"code": "FITTER"}})
        self.assertEqual(self.row("Dig")["people"], "FITTER 2")

    def test_calendars_and_the_project_are_renamed(self) -> None:
        week = {"mon": ["18:00-22:00"]}
        self.refused({"do": "add", "list": "calendars", "cells": {"name": "Nights"}}, saying="give at least one weekday a shift")
        self.done_and_undone({"do": "add", "list": "calendars", "cells": {"name": "Nights", "week": week}})
        lists = self.call("get", "projects/QUAY/plan/lists")["calendars"]
        own, nights = (next(c for c in lists if (c["code"] == self.plan()["calendar"]) == usual) for usual in (True, False))
        self.change({"do": "set", "row": self.id("Dig"), "cells": {"calendar": nights["code"]}})
        self.done_and_undone({"do": "set", "row": nights["id"], "cells": {"code": "dark"}})
        self.assertEqual(self.row("Dig")["calendar"], "dark")
        self.done_and_undone({"do": "set", "row": own["id"], "cells": {"code": "usual"}})
        self.assertEqual(self.plan()["calendar"], "usual")
        self.refused({"do": "set", "row": own["id"], "cells": {"code": "dark"}}, saying="already a calendar “dark”", field="code")
        self.refused({"do": "remove", "rows": [own["id"]]}, saying="is used by the project", status=409)
        project = self.call("get", "projects/QUAY/about")["project"]["id"]
        self.refused({"do": "set", "row": project, "cells": {"code": "FERRY"}}, saying="“FERRY” is not free", field="code")
        self.refused({"do": "remove", "rows": [project]}, saying="can't be deleted", status=409)
        self.change({"do": "set", "row": project, "cells": {"code": "PIER"}})
        self.code = "PIER"
        self.assertEqual(len(self.plan()["rows"]), 7)
        self.undo_or_redo("undo")
        self.code = "QUAY"
        self.assertEqual(len(self.plan()["rows"]), 7)


class Places(Verbs):
    def test_rows_that_go_along_with_their_element_stay_in_it(self) -> None:
        ground, dig, steel = self.id("Ground"), self.id("Dig"), self.id("Steel")
        self.done_and_undone({"do": "place", "rows": [ground, dig], "after": steel})
        self.assertEqual(self.tree(), [(0, "Steel"), (1, "Erect"), (1, "Paint"), (0, "Ground"), (1, "Dig"), (1, "Pour"), (1, "Cure")])
        self.refused({"do": "place", "rows": [ground], "parent": ground}, saying="can't stand inside itself")
        self.refused({"do": "place", "rows": [ground], "after": dig}, saying="can't stand inside itself")
        self.refused({"do": "outdent", "rows": [ground]}, saying="stands at the top already")
        self.refused({"do": "indent", "rows": [steel]}, saying="no row above it")
        self.refused({"do": "element", "rows": [dig], "name": " "}, saying="", field="name")

    def test_an_element_goes_with_all_that_is_in_it(self) -> None:
        self.change({"do": "chain", "rows": [self.id("Pour"), self.id("Erect")]})
        self.done_and_undone({"do": "remove", "rows": [self.id("Ground"), self.id("Dig")]})
        self.assertEqual(self.tree(), [(0, "Steel"), (1, "Erect"), (1, "Paint")])
        self.assertEqual(self.row("Erect").get("after", ""), "")

    def test_an_element_in_a_baseline_stays(self) -> None:
        self.sign_in("lorcan")
        self.call(
            "post", "projects/QUAY/baselines", {"revision": self.plan()["revision"], "name": "First", "reason": "agreed", "rows": None}
        )
        self.refused({"do": "remove", "rows": [self.id("Steel")]}, saying="holds work of baseline B0", status=409)
        self.change({"do": "remove", "rows": [self.id("Erect")]})
        self.done_and_undone({"do": "set", "row": self.id("Steel"), "cells": {"code": "S"}})

    def test_a_block_says_which_line_is_wrong(self) -> None:
        lines = [{"level": 0, "cells": {"name": "Roof"}}, {"level": 1, "cells": {"name": "Slates", "duration": "soon"}}]
        self.refused({"do": "outline", "lines": lines}, saying="Line 2: ", field="duration")
        self.refused({"do": "outline", "lines": [{"level": 0, "cells": {"name": "  "}}]}, saying="Line 1: ", field="name")
        self.refused(
            {"do": "add", "list": "activities", "cells": {"name": "Late"}, "after": "a999999"}, saying="not there any more", status=409
        )
        self.refused({"do": "set", "row": self.id("Dig"), "cells": {"shape": "round"}}, saying="can't be written here", field="shape")
        pause = {"pauses": [{"from": "9 jan", "to": "8 jan"}]}
        self.refused({"do": "set", "row": self.id("Dig"), "cells": pause}, saying="must end after it begins")

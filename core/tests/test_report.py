"""Reports: heads by the mark rules, money this period, registers, corrections, what is drafted; by hand and on random books."""

import unittest
from dataclasses import replace
from decimal import Decimal as D
from typing import Any

from core.tests.books import Doc, book, page
from core.tests.random_books import random_book
from core.tests.test_entries import made
from core.tests.test_marks import at, rule, when
from dryledger.book.plan import Book
from dryledger.book.report_layout import SECTIONS, ReportLayout, layout_faults
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute
from dryledger.errors import BookInvalid, UnknownFigure
from dryledger.exchange.book_json import book_from
from dryledger.exchange.write import book_document
from dryledger.marks.marks import project_mark
from dryledger.readings import read
from dryledger.report.corrections import corrections, out_of_sequence, standing_answers
from dryledger.report.drafting import drafted_decisions, drafted_summary
from dryledger.report.heads import head_mark
from dryledger.report.money import COMPLETION, PERIOD, money_rows
from dryledger.report.registers import register_facts
from dryledger.report.waiting import waiting_for
from dryledger.working.working import working

BEGUN = {"activity": "A", "actual_start": "2027-01-04T08:00"}


def changed(b: Book, **more: Any) -> Book:
    return book_from(book_document(b) | more)


class Layouts(unittest.TestCase):
    def places(self, **layout: Any) -> list[str]:
        return [f.path for f in layout_faults((replace(ReportLayout(), **layout),))]

    def test_what_is_wrong_is_told_at_its_place(self) -> None:
        self.assertEqual(self.places(sections=("money", "curve"), heads=("Safety",), levels=D(2)), [])
        self.assertEqual(self.places(sections=("money", "luck")), ["report_layout.sections"])
        self.assertEqual(self.places(sections=("money", "money")), ["report_layout.sections"])
        for heads in (("cost",), ("Safety", "safety "), (" ",), tuple(f"H{i}" for i in range(13)), ("x" * 61,)):
            self.assertEqual(self.places(heads=heads), ["report_layout.heads"], heads)
        self.assertEqual(self.places(levels=D("1.5")), ["report_layout.levels"])

    def test_a_book_brings_one_and_takes_it_out_again(self) -> None:
        b = changed(made(), report_layout={"sections": ["money"], "heads": ["Safety"]}, progress_lines=[{"at": "2027-01-15T17:00"}])
        self.assertEqual(b.report_layout[0].shown, ("money",))
        document = book_document(b)
        self.assertEqual(document["report_layout"], {"sections": ["money"], "heads": ["Safety"], "levels": 1})
        self.assertEqual(book_document(book_from(document)), document)
        self.assertNotIn("report_layout", book_document(made()))
        self.assertEqual(changed(made(), report_layout={}).report_layout[0].shown, SECTIONS)
        with self.assertRaises(BookInvalid) as caught:
            changed(made(), report_layout={"sections": ["luck"], "surprise": 1})
        self.assertEqual({f.path for f in caught.exception.faults}, {"report_layout.sections", "report_layout.surprise"})


class Heads(unittest.TestCase):
    def test_each_head_looks_at_its_own_figures(self) -> None:
        late = at("2027-01-04T17:00", BEGUN | {"remaining": "9d"})  # eight days of nine to go, a fifth of the budget earned
        self.assertEqual(head_mark(late, "Schedule").mark, "act")  # by what is earned; the finish alone would be Watch
        self.assertIn("The finish lies 5 days after the baseline's.", head_mark(late, "Schedule").reasons)
        self.assertEqual(head_mark(late, "Cost").mark, "on_plan")

    def test_a_rule_of_several_causes_counts_with_those_of_the_head(self) -> None:
        dear, behind = when("ac", ">=", "0.00"), when("pv", "<", "0.00")
        either = at("2027-01-04T17:00", rules=[rule(dear, behind, scope="project", match="any")])
        self.assertEqual((head_mark(either, "Cost").mark, head_mark(either, "Schedule").mark), ("act", "on_plan"))
        both = at("2027-01-04T17:00", rules=[rule(dear, when("pv", ">=", "0.00"), scope="project")])
        self.assertEqual([head_mark(both, h).mark for h in ("Cost", "Schedule")], ["act", "act"])
        neither = at("2027-01-04T17:00", rules=[rule(when("state", "!=", "complete"), scope="project", mark="watch")])
        self.assertEqual([head_mark(neither, h).mark for h in ("Cost", "Schedule")], ["watch", "watch"])

    def test_the_worse_head_is_the_project_under_the_shipped_rules(self) -> None:
        order = ["on_plan", "watch", "act"]
        for seed in range(120):
            r = compute(book_from(random_book(seed) | {"mark_rules": []}))
            whole = project_mark(r).mark
            if whole in order:
                worse = max((head_mark(r, h).mark for h in ("Schedule", "Cost")), key=order.index)
                self.assertEqual(worse, whole, seed)


class Money(unittest.TestCase):
    def test_periods_add_up_to_what_is_told_to_date(self) -> None:
        """Every page's own part, added up, is the figure to date; elements and what stands beside them are the project."""
        for seed in range(60):
            b = book_from(random_book(seed))
            if not b.periods:
                continue
            pages = [compute(b, p.code) for p in b.periods]
            for key in ("ev", "ac"):
                parts = [money_rows(r)[-1].period[key] or D(0) for r in pages]
                self.assertEqual(sum(parts, D(0)), read(pages[-1], key), (seed, key))
            r, rows = pages[-1], money_rows(pages[-1], 9)
            self.assertEqual([m.code for m in rows], [*sorted(r.wbs), b.project.code])
            for m in rows:
                for key in PERIOD:
                    self.assertEqual(m.to_date[key], read(r, key, m.kind, m.code))
                    self.assertEqual(working(r, f"period.{key}", m.kind, m.code).result, m.period[key])
                self.assertEqual(m.completion, {key: read(r, key, m.kind, m.code) for key in COMPLETION})

    def test_the_working_of_a_period_names_both_pages(self) -> None:
        w = working(compute(made({"activity": "B", "actual_start": "2027-01-11T08:00", "percent": 40})), "period.ev")
        stated = [("Earned value to date", D("140.00")), ("Earned value on P1", D("100.00"))]
        self.assertEqual((w.result, [(o.label, o.value) for o in w.operands]), (D("40.00"), stated))
        for measure, kind in (("period.luck", "project"), ("spi", "risk")):
            with self.assertRaises(UnknownFigure):
                working(compute(made()), measure, kind)

    def test_the_exposure_of_a_risk(self) -> None:
        risks = [{"code": "R1", "name": "Rain", "probability": 35, "impact": "1000.05"}, {"code": "R2", "name": "Ice", "probability": 5}]
        r = compute(changed(made(), risks=risks))
        self.assertEqual(working(r, "exposure", "risk", "R1").result, D("350.02"))
        self.assertEqual(working(r, "exposure", "risk", "R2").reason, "the register gives no probability or no impact")
        self.assertEqual(working(r, "impact", "risk", "R1").result, D("1000.05"))
        self.assertEqual(working(r, "impact", "risk", "R2").reason, "the register does not say")
        with self.assertRaises(KeyError):
            working(r, "exposure", "risk", "R3")


class Told(unittest.TestCase):
    def told(self, now: list[Doc], before: list[Doc] | None, name: str = "issues") -> list[tuple[object, bool, str]]:
        then = None if before is None else changed(made(), **{name: before})
        return [(x.entry.code, x.open, x.since) for x in register_facts(changed(made(), **{name: now}), then, name)]

    def test_registers_tell_what_is_open_or_was_touched(self) -> None:
        one, two = {"code": "I1", "name": "Leak"}, {"code": "I2", "name": "Noise", "state": "closed"}
        self.assertEqual(self.told([one, two], None), [("I1", True, "")])
        self.assertEqual(self.told([one, two], [one, two]), [("I1", True, "")])
        self.assertEqual(self.told([one, two], [one, two | {"state": "open"}]), [("I1", True, ""), ("I2", False, "changed")])
        self.assertEqual(self.told([one, two], []), [("I1", True, "new"), ("I2", False, "new")])
        risk = {"code": "R1", "name": "Rain", "state": "happened"}
        self.assertEqual(self.told([risk], [risk | {"state": "open"}], "risks"), [("R1", False, "changed")])
        self.assertEqual(self.told([{"code": "C1", "name": "Wider"}], None, "changes"), [("C1", True, "")])

    def test_corrections_and_answers_of_a_page(self) -> None:
        hours = {"activity": "A", "resource": "K", "worked": "-2h", "corrects": "P1", "reason": "booked twice"}
        document = book_document(made({"activity": "B", "actual_start": "2027-01-11T08:00"}))
        document["periods"][0]["hours"] = [{"activity": "A", "resource": "K", "worked": "8h"}]
        document["periods"][1]["hours"] = [hours]
        document["answers"] = [
            {"check": "no_successor", "row": "M", "page": "P1", "text": "the end", "until": "P1"},
            {"check": "no_successor", "row": "C", "page": "P2", "text": "meant so"},
        ]
        r = compute(book_from(document))
        self.assertEqual([(c.kind, c.corrects, c.activity, c.amount) for c in corrections(r)], [("hours", "P1", "A", -120)])
        self.assertEqual([a.row for a in standing_answers(r)], ["C"])
        self.assertEqual([a.row for a in standing_answers(compute(book_from(document), "P1"))], ["M"])
        bare = compute(replace(made(), periods=()))
        self.assertEqual((corrections(bare), standing_answers(bare), drafted_summary(bare, 0)), ([], [], ""))

    def test_out_of_sequence_work_is_named_while_it_goes_on(self) -> None:
        early: Doc = {"activity": "C", "actual_start": "2027-01-12T08:00", "remaining": "2d"}
        self.assertEqual(out_of_sequence(compute(made(early))), ["C"])
        done = {"activity": "C", "actual_start": "2027-01-12T08:00", "actual_finish": "2027-01-13T17:00"}
        self.assertEqual(out_of_sequence(compute(made(done))), [])


class Drafts(unittest.TestCase):
    def summary(self, *second: Doc, **project: Any) -> str:
        return drafted_summary(compute(made(*second, **project)), 1)

    def test_the_summary_says_the_figures(self) -> None:
        stated = self.summary({"activity": "B", "actual_start": "2027-01-11T08:00", "percent": 40}, deadline="2027-01-25T17:00")
        for sentence in (
            "By 15 January 2027, 46.7 % of the budget is earned against 66.7 % planned.",
            "The work done cost EUR 140.00 less than it earned.",
            "The forecast finish is 27 January 2027, 3 working days later than in the baseline.",
            "The deadline is missed by 2 working days.",
            "1 activity was worked on this period; 0 of all finished in it.",
        ):
            self.assertIn(sentence, stated.replace("\u00a0", " "))

    def test_decisions_are_the_changes_that_nobody_has_decided(self) -> None:
        changes = [
            {"code": "C1", "name": "Wider quay", "lines": [{"activity": "A", "amount": "-1200.00"}]},
            {"code": "C2", "name": "Done", "state": "approved"},
            {"code": "C3", "name": "Lamps", "state": "proposed"},
        ]
        r: Results = compute(changed(made(), changes=changes))
        stated = drafted_decisions(r).replace("\u00a0", " ").splitlines()
        self.assertEqual(
            stated, ["Decide on change C1, Wider quay (−EUR 1,200.00).".replace(",200", " 200"), "Decide on change C3, Lamps."]
        )


class Waiting(unittest.TestCase):
    OTHER: Doc = {"code": "PIER/A1", "name": "Pile", "start": "2027-01-04T08:00", "finish": "2027-01-06T17:00"}
    ROWS = ({"code": "A", "duration": "1d"}, {"code": "B", "duration": "1d"})
    LINKS = ({"from": "PIER/A1", "to": "A"}, {"from": "PIER/A1", "to": "B"})

    def told(self, *stated: Doc, **more: Any) -> list[tuple[str, tuple[str, ...], str | None]]:
        pages = [page("P1", "2027-01-08T17:00", *stated)] if stated else []
        b = book(list(self.ROWS), list(self.LINKS), externals=[self.OTHER | more], periods=pages)
        found = waiting_for(compute(b))
        return [(x.external.code, x.waits, None if x.finish_before is None else to_text(x.finish_before)) for x in found]

    def test_who_waits_and_where_it_was_on_the_last_page(self) -> None:
        self.assertEqual(self.told(), [("PIER/A1", ("A", "B"), None)])
        before = {"last_start": "2027-01-04T08:00", "last_finish": "2027-01-05T17:00"}
        self.assertEqual(self.told(**before), [("PIER/A1", ("A", "B"), "2027-01-05T17:00")])
        same = {"last_start": self.OTHER["start"], "last_finish": self.OTHER["finish"]}
        self.assertEqual(self.told(**same), [("PIER/A1", ("A", "B"), None)])

    def test_what_is_done_waits_no_more(self) -> None:
        done = {"actual_start": "2027-01-07T08:00", "actual_finish": "2027-01-07T17:00"}
        self.assertEqual(self.told({"activity": "A"} | done), [("PIER/A1", ("B",), None)])
        self.assertEqual(self.told({"activity": "A"} | done, {"activity": "B"} | done), [])

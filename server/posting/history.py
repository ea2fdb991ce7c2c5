"""The history of an activity: what every page says of it, its hours and its costs, with who wrote it and when."""

import re
from collections import defaultdict
from dataclasses import dataclass

from dryledger.posting.entries import describe
from server.book.access import Access
from server.book.models import Activity, CostEntry, HoursEntry, Page, Statement
from server.book.workspace import workspace_of
from server.journal.models import Step
from server.shared.problems import Refused
from server.shared.words import sentence

KINDS = ("post", "clear", "as planned", "carry", "feed", "status", "import")


@dataclass
class Words:
    """One entry: a statement, hours or a cost, in a few words; who wrote it and when, empty where it came with the book."""

    page: str
    status: str
    state: str
    kind: str
    text: str
    note: str
    corrects: str
    by: str
    at: str


@dataclass
class HistoryOut:
    """All entries of an activity, the latest page first."""

    code: str
    name: str
    entries: list[Words]


def history(access: Access, code: str) -> HistoryOut:
    """The entries of an activity by page. Raises Refused for one that is not there."""
    activity = Activity.objects.filter(project=access.project, code=code).first()
    if activity is None:
        raise Refused("not-found", sentence("posting.no_activity", code=code[:60], code_2=access.project.code), 404)
    statements, hours = list(Statement.objects.filter(activity=activity)), list(HoursEntry.objects.filter(activity=activity))
    costs = list(CostEntry.objects.filter(activity=activity))
    wanted = {("book.Statement", x.pk) for x in statements} | {("book.HoursEntry", x.pk) for x in hours}
    wrote = _writers(access, wanted | {("book.CostEntry", x.pk) for x in costs})
    nobody = ("", "")
    pages = {p.pk: p for p in Page.objects.filter(project=access.project).defer("inputs", "results")}
    out: dict[int, list[Words]] = defaultdict(list)

    def say(page: int, kind: str, text: str, note: str | None, corrects: str | None, who: tuple[str, str]) -> None:
        p = pages[page]
        out[page].append(Words(p.code, p.status, p.state, kind, text, note or "", corrects or "", *who))

    stated = {p.code: x for p in workspace_of(access.project).book.periods for x in p.statements if x.activity == code}
    for s in (s for s in statements if pages[s.page_id].code in stated):
        note = "; ".join(x for x in (s.reason, s.note) if x)
        say(s.page_id, "statement", describe(stated[pages[s.page_id].code]), note, s.corrects, wrote.get(("book.Statement", s.pk), nobody))
    people = dict(HoursEntry.objects.filter(activity=activity).values_list("resource_id", "resource__name"))
    for h in hours:
        text = ", ".join([people[h.resource_id], *_spans(h)])
        say(h.page_id, "hours", text, h.reason, h.corrects, wrote.get(("book.HoursEntry", h.pk), nobody))
    for c in costs:
        text = " ".join(x for x in (c.amount, c.source, c.ref) if x)
        say(c.page_id, "cost", text, c.reason or c.text, c.corrects, wrote.get(("book.CostEntry", c.pk), nobody))
    in_order = sorted(out, key=lambda pk: -pages[pk].order)
    return HistoryOut(activity.code, activity.name, [x for pk in in_order for x in out[pk]])


def _spans(h: HoursEntry) -> list[str]:
    spans = (("", h.worked), (" overtime", h.overtime), (" remaining", h.to_go))
    return [f"{_hours(text)}{word}" for word, text in spans if text]


def _hours(text: str) -> str:
    """A span as it is kept, with its unit apart; minutes in hours."""
    if text.endswith("min") and text[:-3].lstrip("-").isdigit():
        return f"{int(text[:-3]) / 60:g} h"
    return re.sub(r"(?<=\d)(?=[a-z])", " ", text)


def _writers(access: Access, wanted: set[tuple[str, int]]) -> dict[tuple[str, int], tuple[str, str]]:
    """Who wrote rows last, and when, as the journal has it."""
    out: dict[tuple[str, int], tuple[str, str]] = {}
    steps = Step.objects.filter(project=access.project, undone=False, kind__in=KINDS).select_related("by").order_by("-id")
    for s in steps.iterator(chunk_size=200):
        for c in s.changes:
            key = c["model"], c["pk"]
            if key in wanted and key not in out:
                out[key] = s.by.full_name, s.at.isoformat(timespec="minutes")
        if len(out) == len(wanted):
            break
    return out

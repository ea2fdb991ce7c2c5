"""The tray of a feed: its rows as they are read by the mapping, each with its verdict and what can be put right."""

from collections import Counter
from dataclasses import asdict, dataclass, field
from datetime import date
from decimal import Decimal
from typing import Any

from dryledger.book.plan import Book
from dryledger.budget.money import minor_unit
from dryledger.entry.grammar import TwoWays, read_day, type_amount, type_duration
from dryledger.entry.grammar import read_number as number_of
from dryledger.errors import EntryRefused
from dryledger.formats import formats_written, using
from dryledger.posting.feeds import FeedRow, Posted, Verdict, judge
from dryledger.posting.hours import MOST_HOURS
from server.feeds.models import Feed, Taken, Waiting
from server.feeds.reading import FIELDS, guessed
from server.posting.costs import paid
from server.shared.words import sentence

SOURCES = {"invoice": "invoice", "accrual": "accrual", "other": "feed", "feed": "feed", "": "feed"}


@dataclass
class WaitingOut:
    """A row of the tray: what it said, what that is here, its verdict, and the cell that has to be put right."""

    id: str
    number: int
    verdict: str
    reason: str
    field: str
    day: str
    person: str
    resource: str
    activity: str
    on: str
    name: str
    hours: str
    overtime: str
    remaining: str
    amount: str
    source: str
    ref: str
    text: str
    was: str
    """Of a changed row what was posted of it, in a few words."""
    may_be_late: bool
    """Whether it can be posted although its day lies on a closed page."""


@dataclass
class TrayOut:
    """The tray of a feed: its columns, which of ours they are, and its rows."""

    id: int
    revision: int
    heads: list[str]
    columns: dict[str, str]
    needed: list[str]
    """Fields that no column is chosen for, though each row needs them."""
    new: int
    changed: int
    refused: int
    rows: list[WaitingOut] = field(default_factory=list)


class Wrong(Exception):
    """A cell of a row that can't be taken."""

    def __init__(self, where: str, message: str) -> None:
        super().__init__(message)
        self.where, self.message = where, message


class TrayReader:
    """Reads rows of one feed against a book."""

    def __init__(self, feed: Feed, book: Book) -> None:
        self.feed, self.book = feed, book
        self.columns = guessed(feed.kind, feed.heads, feed.map("columns"))
        self.people = {k.lower(): v for k, v in feed.map("people").items()}
        self.activities = {k.lower(): v for k, v in feed.map("activities").items()}
        labour = [x for x in book.resources if x.kind != "material"]
        self.by_person = {x.name.lower(): x.code for x in labour} | {x.code.lower(): x.code for x in labour}
        names = Counter(a.name.lower() for a in book.activities)
        self.by_activity = {a.name.lower(): a.code for a in book.activities if names[a.name.lower()] == 1}
        self.by_activity |= {a.code.lower(): a.code for a in book.activities}
        self.elements = {w.code.lower(): w.code for w in book.wbs}
        self.calendar = book.project_calendar
        self.unit = minor_unit(book.project.currency)
        self.taken: dict[str, Taken] = {t.key: t for t in Taken.objects.filter(feed=feed)}

    def cell(self, raw: dict[str, str], name: str) -> str:
        """What a row says in one of our fields."""
        return raw.get(self.columns.get(name, ""), "")

    def read(self, w: Waiting) -> FeedRow:
        """The row as it is meant, whoever asks: a feed has formats of its own. Raises Wrong at the cell that can't be."""
        with using(formats_written()):
            return self._read(w)

    def _read(self, w: Waiting) -> FeedRow:
        raw: dict[str, str] = w.raw
        day = self._day(self.cell(raw, "date"))
        target = self._target(w.own.get("activity") or self.cell(raw, "activity"))
        if self.feed.kind == "cost":
            return self._cost(w, raw, day, target)
        if target[0] == "wbs":
            raise Wrong("activity", sentence("feeds.hours_on_element", code=target[1]))
        person = w.own.get("person") or self.cell(raw, "person")
        resource = self.people.get(person.lower()) or self.by_person.get(person.lower())
        if resource is None or resource not in self.by_person.values():
            raise Wrong("person", sentence("feeds.nobody", name=person[:60]))
        worked, overtime = self._minutes(raw, "hours") or 0, self._minutes(raw, "overtime") or 0
        remaining = self._minutes(raw, "remaining")
        return FeedRow(w.key, day, target, resource, worked, overtime, remaining)

    def _cost(self, w: Waiting, raw: dict[str, str], day: date, target: tuple[str, str]) -> FeedRow:
        currency = self.cell(raw, "currency")
        if currency and currency.upper() != self.book.project.currency:
            raise Wrong("amount", sentence("feeds.currency", given=currency[:10], own=self.book.project.currency))
        try:
            amount = type_amount(self.cell(raw, "amount"), self.unit, "amount")
        except EntryRefused as no:
            raise Wrong("amount", no.message) from None
        if amount is None:
            raise Wrong("amount", sentence("costs.amount_needed"))
        source = SOURCES.get(self.cell(raw, "source").lower())
        if source is None:
            raise Wrong("source", sentence("costs.source", value=self.cell(raw, "source")[:40], options="invoice, accrual, other"))
        text = ", ".join(x for x in (self.cell(raw, "supplier"), self.cell(raw, "text")) if x)
        try:
            _, order = paid(self.book, self.cell(raw, "order")[:100], target)
        except EntryRefused as no:
            raise Wrong("order", no.message) from None
        ref = self.cell(raw, "reference")[:300] or None
        return FeedRow(w.key, day, target, amount=amount, source=source, ref=ref, text=text or None, order=order)

    def _day(self, text: str) -> date:
        try:
            day = read_day(text.strip().lower()[:40].split("t")[0] if text[:4].isdigit() else text.strip().lower()[:40])
        except TwoWays as two:
            raise Wrong("date", sentence("feeds.two_days", text=text[:40], options=" or ".join(two.options))) from None
        if day is None:
            raise Wrong("date", sentence("feeds.no_day", text=text[:40]))
        return day

    def _target(self, text: str) -> tuple[str, str]:
        bare = text.strip().lower()
        mapped = self.activities.get(bare)
        bare = mapped.lower() if mapped else bare
        if bare.startswith("wbs ") and bare[4:].strip() in self.elements:
            return "wbs", self.elements[bare[4:].strip()]
        code = self.by_activity.get(bare) or self.by_activity.get(bare.split(" ")[0])
        if code is not None:
            return "activity", code
        if bare in self.elements:
            return "wbs", self.elements[bare]
        raise Wrong("activity", sentence("feeds.no_activity", code=text[:60]))

    def _minutes(self, raw: dict[str, str], name: str) -> int | None:
        text = self.cell(raw, name).strip()
        if not text:
            return None
        try:
            got = type_duration(f"{text}h" if number_of(text) is not None else text, self.calendar, name)
        except EntryRefused:
            raise Wrong(name, sentence("feeds.not_hours", text=text[:40])) from None
        if got is None or not 0 <= got[0] <= MOST_HOURS * 60:
            raise Wrong(name, sentence("feeds.not_hours", text=text[:40]))
        return int(got[0])

    def posted(self, key: str) -> Posted | None:
        """What was posted of a row before."""
        found = self.taken.get(key)
        return None if found is None or not found.page else Posted(kept_row(found.row), found.page)

    def verdict(self, w: Waiting) -> tuple[FeedRow | None, Posted | None, Verdict, str]:
        """A row of the tray: as it is meant, what was posted of it, its verdict, and the cell that is wrong."""
        known = self.posted(w.key)
        if known is None and w.key in self.taken:
            return None, None, Verdict("seen"), ""  # discarded before
        try:
            row = self.read(w)
        except Wrong as no:
            return None, known, Verdict("refused", no.message), no.where
        found = judge(row, known, self.book, bool(w.own.get("late")))
        return row, known, found, "date" if found.kind == "refused" else ""


def row_kept(row: FeedRow) -> dict[str, Any]:
    """A row as it is stored."""
    return asdict(row) | {"day": row.day.isoformat(), "amount": f"{row.amount:f}", "target": list(row.target)}


def kept_row(kept: dict[str, Any]) -> FeedRow:
    """The row that was stored."""
    kind, code = kept["target"]
    return FeedRow(**kept | {"day": date.fromisoformat(kept["day"]), "amount": Decimal(kept["amount"]), "target": (kind, code)})


def _hours(minutes: int) -> str:
    return f"{minutes / 60:g}" if minutes else ""


def _was(known: Posted | None, kind: str) -> str:
    if known is None:
        return ""
    r = known.row
    on = r.target[1] if r.target[0] == "activity" else f"WBS {r.target[1]}"
    if kind == "cost":
        return f"{r.amount:f}, {on}"
    return f"{r.worked / 60:g} h" + (f" + {r.overtime / 60:g} h" if r.overtime else "") + f", {on}"


def tray_of(feed: Feed, book: Book, revision: int) -> TrayOut:
    """The tray as it is judged now; what was posted before and has not changed is no longer in it."""
    reader = TrayReader(feed, book)
    names = {a.code: a.name for a in book.activities} | {f"WBS {x.code}": x.name for x in book.wbs}
    people = {x.code: x.name for x in book.resources}
    counts: Counter[str] = Counter()
    needed = [f for f, must in FIELDS[feed.kind] if must and f not in reader.columns]
    out = TrayOut(feed.pk, revision, feed.heads, reader.columns, needed, 0, 0, 0)
    for w in Waiting.objects.filter(feed=feed):
        row, known, verdict, where = reader.verdict(w)
        if verdict.kind == "seen":
            continue
        counts[verdict.kind] += 1
        raw: dict[str, str] = w.raw
        on = "" if row is None else row.target[1] if row.target[0] == "activity" else f"WBS {row.target[1]}"
        resource = "" if row is None else people.get(row.resource or "", "")
        out.rows.append(
            WaitingOut(
                f"r{w.pk}",
                w.number,
                verdict.kind,
                verdict.reason,
                where,
                reader.cell(raw, "date") if row is None else row.day.isoformat(),
                w.own.get("person") or reader.cell(raw, "person"),
                resource,
                w.own.get("activity") or reader.cell(raw, "activity"),
                on,
                names.get(on, ""),
                reader.cell(raw, "hours") if row is None else _hours(row.worked),
                reader.cell(raw, "overtime") if row is None else _hours(row.overtime),
                reader.cell(raw, "remaining") if row is None or row.to_go is None else _hours(row.to_go) or "0",
                reader.cell(raw, "amount") if row is None else f"{row.amount:f}",
                reader.cell(raw, "source") if row is None else row.source,
                reader.cell(raw, "reference"),
                reader.cell(raw, "text"),
                _was(known, feed.kind) if verdict.kind == "changed" else "",
                row is not None and verdict.kind == "refused" and judge(row, known, book, True).kind == "new",
            )
        )
    out.new, out.changed, out.refused = counts["new"], counts["changed"], counts["refused"]
    return out

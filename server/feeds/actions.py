"""What is done to feeds: naming one, fetching, putting rows right, posting the tray as one step, deleting one."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from django.db import transaction
from django.utils import timezone

from dryledger.book.pages import CostEntry, HoursEntry
from dryledger.calendar.calendar import date_of, from_text
from dryledger.changes.draft import Draft
from dryledger.changes.entering import set_hours, state
from dryledger.posting.assumed import stated_by_hours
from dryledger.posting.corrections import as_corrected_hours, target_of
from dryledger.posting.feeds import KINDS, FeedRow, Move, moves
from dryledger.posting.hours import hours_rows
from server.book.access import Access
from server.book.models import Page
from server.book.results import View
from server.feeds.fetching import check_address, fetch
from server.feeds.models import Feed, Taken, Waiting
from server.feeds.reading import FIELDS, guessed, key_of, read_rows
from server.feeds.tray import TrayOut, TrayReader, row_kept, tray_of
from server.journal.steps import Changes, ask
from server.posting.actions import Effect, effect_of, enter, seen_page
from server.posting.sheet import before
from server.shared.problems import Refused
from server.shared.words import sentence

MOST_FEEDS = 30


@dataclass
class FeedOut:
    """A feed: where it comes from, and how many rows wait in its tray."""

    id: int
    name: str
    kind: str
    address: str
    fetched_at: str | None
    waiting: int


@dataclass
class FeedsOut:
    """The feeds of a project."""

    open_page: str
    feeds: list[FeedOut]


@dataclass
class FetchedOut:
    """What a fetch brought: rows in all, those posted before and unchanged, and the tray now."""

    rows: int
    seen: int
    tray: TrayOut


@dataclass
class FeedEffect:
    """What posting the tray did, and what is left in it."""

    posted: int
    effect: Effect
    tray: TrayOut


def feeds_of(access: Access) -> FeedsOut:
    """The feeds of a project."""
    wet = Page.objects.filter(project=access.project, state="wet").last()
    rows = [
        FeedOut(f.pk, f.name, f.kind, f.address, f.fetched_at.isoformat() if f.fetched_at else None, f.tray.count())
        for f in Feed.objects.filter(project=access.project)
    ]
    return FeedsOut("" if wet is None else wet.code, rows)


def find_feed(access: Access, pk: int) -> Feed:
    """A feed of the project. Raises Refused where there is none."""
    found = Feed.objects.filter(project=access.project, pk=pk).first()
    if found is None:
        raise Refused("not-found", sentence("feeds.gone"), 404)
    return found


def set_feed(access: Access, pk: int | None, given: Mapping[str, object]) -> FeedsOut:
    """Name a new feed, or change one: its name, address, and which columns are which."""
    if pk is None and Feed.objects.filter(project=access.project).count() >= MOST_FEEDS:
        raise Refused("too-many", sentence("feeds.too_many_feeds", most=MOST_FEEDS), 409)
    feed = Feed(project=access.project) if pk is None else find_feed(access, pk)
    name = str(given.get("name", feed.name)).strip()
    if not name:
        raise Refused("entry-refused", sentence("feeds.name_needed"), 422, field="name")
    feed.name = name[:100]
    if pk is None:
        feed.kind = str(given.get("kind"))
        if feed.kind not in KINDS:
            raise Refused("entry-refused", sentence("planned.way", options=", ".join(KINDS)), 422, field="kind")
    address = str(given.get("address", feed.address)).strip()
    if address:
        check_address(address)
    feed.address = address
    columns = given.get("columns")
    if isinstance(columns, dict):
        ours = {f for f, _ in FIELDS[feed.kind]}
        feed.mapping = dict(feed.mapping) | {"columns": {k: str(v)[:200] for k, v in columns.items() if k in ours and v}}
    if pk is None:
        feed.save()
    elif not Feed.objects.filter(pk=pk).update(name=feed.name, address=feed.address, mapping=feed.mapping):
        raise Refused("not-found", sentence("feeds.gone"), 404)
    return feeds_of(access)


def delete_feed(access: Access, pk: int) -> FeedsOut:
    """Delete a feed with its tray. What was posted of it stays; it would be new to another feed."""
    find_feed(access, pk).delete()
    return feeds_of(access)


def _book(access: Access) -> View:
    return access.view("now")


def fetch_feed(access: Access, pk: int, content: str | None) -> FetchedOut:
    """Fetch a feed from its address, or take what a dropped file says. What is broken is told, and nothing happens.

    A row that is in the tray already is brought up to date; what was chosen for it stays.
    """
    feed = find_feed(access, pk)
    if content is None and not feed.address:
        raise Refused("bad-address", sentence("feeds.drop_a_file"), 422, field="address")
    data = fetch(feed.address, access.person) if content is None else content.encode()
    heads, rows = read_rows(data)
    with transaction.atomic():
        feed = find_feed(access, pk)  # as it is now: somebody may have changed or deleted it meanwhile
        columns = guessed(feed.kind, heads, feed.map("columns"))
        keyed: dict[str, tuple[int, dict[str, str]]] = {}
        for i, row in enumerate(rows):
            keyed.setdefault(key_of(row, columns), (i + 1, row))
        feed.heads, feed.fetched_at = heads, timezone.now()
        feed.save(update_fields=["heads", "fetched_at"])
        held = {w.key: w for w in Waiting.objects.filter(feed=feed)}
        fresh = [Waiting(feed=feed, number=n, key=key, raw=row) for key, (n, row) in keyed.items() if key not in held]
        again = [held[key] for key, (n, row) in keyed.items() if key in held and (held[key].number, held[key].raw) != (n, row)]
        for w in again:
            w.number, w.raw = keyed[w.key]
        Waiting.objects.bulk_create(fresh, batch_size=500)
        Waiting.objects.bulk_update(again, ["number", "raw"], batch_size=200)
        v = _book(access)
        reader = TrayReader(feed, v.book)
        seen = [w.pk for w in Waiting.objects.filter(feed=feed) if reader.verdict(w)[2].kind == "seen"]
        for i in range(0, len(seen), 500):
            Waiting.objects.filter(pk__in=seen[i : i + 500]).delete()
    return FetchedOut(len(rows), len(seen) + len(rows) - len(keyed), tray_of(feed, v.book, access.project.revision))


def tray(access: Access, pk: int) -> TrayOut:
    """The tray of a feed as it is judged now."""
    return tray_of(find_feed(access, pk), _book(access).book, access.project.revision)


def fix_rows(access: Access, pk: int, ids: Sequence[str], chosen: Mapping[str, object]) -> TrayOut:
    """Put rows of the tray right: whom or what a name means (remembered with the feed), or that a row is taken late, or discarded."""
    feed = find_feed(access, pk)
    v = _book(access)
    rows = list(Waiting.objects.filter(feed=feed, pk__in=[i[1:] for i in ids if i[1:].isdecimal()]))
    if not rows:
        raise Refused("not-found", sentence("feeds.row_gone"), 409)
    reader = TrayReader(feed, v.book)
    known = {"person": set(reader.by_person.values()), "activity": set(v.book.activity_by_code)}
    mapping = {k: dict(x) for k, x in dict(feed.mapping).items()}
    for name, part, by in (("person", "people", reader.by_person), ("activity", "activities", reader.by_activity)):
        text = chosen.get(name)
        if text is None:
            continue
        bare = str(text).strip().lower()
        element = feed.kind == "cost" and bare.startswith("wbs ") and bare[4:].strip() in reader.elements
        code = f"WBS {reader.elements[bare[4:].strip()]}" if element else by.get(bare) or by.get(bare.split(" ")[0])
        if code is None or (not element and code not in known[name]):
            key = "feeds.nobody" if name == "person" else "feeds.no_activity"
            given = {"name": str(text)[:60]} if name == "person" else {"code": str(text)[:60]}
            raise Refused("entry-refused", sentence(key, **given), 422, field=name)
        for w in rows:
            theirs = reader.cell(w.raw, name)
            if theirs:
                mapping.setdefault(part, {})[theirs] = code
            else:
                w.chosen = w.own | {name: code}
    with transaction.atomic():
        if chosen.get("discard"):
            Taken.objects.bulk_create([Taken(feed=feed, key=w.key, page="", row={"discarded": w.raw}) for w in rows], ignore_conflicts=True)
            Waiting.objects.filter(pk__in=[w.pk for w in rows]).delete()
        else:
            if chosen.get("late"):
                for w in rows:
                    w.chosen = w.own | {"late": True}
            if not Feed.objects.filter(pk=feed.pk).update(mapping=mapping):
                raise Refused("not-found", sentence("feeds.gone"), 404)
            feed.mapping = mapping
            Waiting.objects.bulk_update(rows, ["chosen"])
    return tray_of(feed, v.book, access.project.revision)


def post_tray(access: Access, page_code: str, pk: int, revision: int) -> FeedEffect:
    """Post what is new or changed in the tray on the open page, as one step; refused rows stay. Raises Stale, Refused."""
    ask(access, "feed")
    old, was = seen_page(access, page_code, revision)
    feed = find_feed(access, pk)
    reader = TrayReader(feed, old.book)
    ready: list[tuple[Waiting, FeedRow, list[Move]]] = []
    stale: list[FeedRow] = []
    for w in Waiting.objects.filter(feed=feed):
        row, known, verdict, _ = reader.verdict(w)
        if row is not None and verdict.kind in ("new", "changed"):
            here = known is not None and known.page == old.page.code and feed.kind == "cost"
            if here and known is not None:
                stale.append(known.row)  # a cost of this page is written anew, not by its difference
            ready.append((w, row, moves(row, None if here else known, old.page.code)))
    label = sentence("feeds.posted", count=len(ready), name=feed.name)
    writer = _Writer(old, feed)
    for *_, found in ready:
        for m in found:
            writer.take(m)

    def beside(s: Changes) -> None:
        _as_judged(feed, [w for w, *_ in ready])
        fresh, again = list[Taken](), list[Taken]()
        for w, row, _ in ready:
            taken = reader.taken.get(w.key)
            kept = Taken(feed=feed, key=w.key) if taken is None else taken
            kept.page, kept.row = old.page.code, row_kept(row)
            (fresh if taken is None else again).append(kept)
        s.add(fresh)
        s.update(again)
        s.clear([w for w, *_ in ready])

    enter(access, old, revision, "feed", lambda draft, page: writer.write(draft, page, stale), label, beside=beside)
    new = access.view(page_code)
    return FeedEffect(len(ready), effect_of(access, was, old, label), tray_of(feed, new.book, access.project.revision))


def _as_judged(feed: Feed, judged: Sequence[Waiting]) -> None:
    """Raises Refused where rows of the tray, or how they are read, became others since they were judged."""
    now = Feed.objects.filter(pk=feed.pk).first()
    rows = {w.pk: w for w in Waiting.objects.filter(feed=feed)}
    same = now is not None and (now.mapping, now.heads) == (feed.mapping, feed.heads)
    if not same or any(w.pk not in rows or (rows[w.pk].raw, rows[w.pk].chosen) != (w.raw, w.chosen) for w in judged):
        raise Refused("moved-on", sentence("feeds.tray_changed"), 409)


class _Writer:
    """Gathers what the rows move and writes it: one entry of hours for each assignment, one cost for each row."""

    def __init__(self, v: View, feed: Feed) -> None:
        self.v, self.feed = v, feed
        self.hours: dict[tuple[str, str, str | None], list[Move]] = defaultdict(list)
        self.costs: list[Move] = []

    def take(self, m: Move) -> None:
        """Note what a row moves."""
        if m.resource is None:
            self.costs.append(m)
        else:
            self.hours[m.target[1], m.resource, m.corrects].append(m)

    def write(self, draft: Draft, page: int, stale: Sequence[FeedRow]) -> None:
        """Write it all into a draft; `stale` are rows whose costs are written anew."""
        book, reason = self.v.book, sentence("feeds.reason", name=self.feed.name)
        known = {(x.activity, x.resource): x for x in hours_rows(self.v.results)}
        corrections, entered = list[HoursEntry](), list[HoursEntry]()
        for (code, resource, corrects), found in self.hours.items():
            x = known.get((code, resource))
            held = (x.worked, x.overtime) if x is not None else (0, 0)
            if corrects is not None:
                held = as_corrected_hours(book, corrects, code, resource)
            change = sum(m.worked for m in found), sum(m.overtime for m in found)
            if held[0] + change[0] < 0 or held[1] + change[1] < 0:
                name = book.resource_by_code[resource].name
                raise Refused("feed", sentence("feeds.below_nothing", resource=name, activity=code), 409)
            left = [m.to_go for m in sorted(found, key=lambda m: m.day) if m.to_go is not None]
            if corrects is None:
                to_go = left[-1] if left else None if x is None else x.to_go
                entered.append(HoursEntry(code, resource, held[0] + change[0], held[1] + change[1], to_go))
                set_hours(draft, page, entered[-1])
            elif any(change):
                corrections.append(HoursEntry(code, resource, *change, corrects=corrects, reason=reason))
        draft.enter(page, "hours", [(None, x) for x in corrections])
        for code in {h.resource for h in entered if h.worked or h.overtime}:
            self._has_sheets(draft, code)
        state(draft, page, stated_by_hours(self.v.results, before(self.v), entered))
        self._write_costs(draft, page, stale, reason)

    def _has_sheets(self, draft: Draft, code: str) -> None:
        """A resource whose hours come from a feed is posted from its first on, where it would follow the project's progress.

        What was reckoned of it on earlier pages stays: then its hours take over activity by activity.
        """
        book, earlier = self.v.book, before(self.v).valuation.following
        if book.project.actuals != "progress" or book.resource_by_code[code].actuals:
            return
        if not any(x.resource == code for a in book.activities for x in earlier.of(a.code)):
            draft.put("resources", draft.codes("resources")[code], {"actuals": "posted"})

    def _write_costs(self, draft: Draft, page: int, stale: Sequence[FeedRow], reason: str) -> None:
        """The costs; those of rows that are written anew go, unless somebody changed them since: a check tells these."""
        there, gone, status = draft.entered(page, "costs"), list[int](), from_text(self.v.page.status)
        for row in stale:
            same = (
                p
                for p, c in there.items()
                if (target_of(c), c.amount, c.source, c.ref, c.order_code) == (row.target, row.amount, row.source, row.ref, row.order)
            )
            gone += [p for p in [next((p for p in same if p not in gone), None)] if p is not None]
        fresh = list[CostEntry]()
        for m in self.costs:
            if not m.amount and m.corrects:
                continue
            activity, element = (m.target[1], None) if m.target[0] == "activity" else (None, m.target[1])
            day, source = (date_of(status - 1), "correction") if m.corrects else (m.day, m.source)
            entry = CostEntry(
                day, m.amount, source, activity, element, m.ref, m.corrects, reason if m.corrects else None, m.text, order_code=m.order
            )
            fresh.append(entry)
        draft.enter(page, "costs", [*((p, None) for p in gone), *((None, x) for x in fresh)])

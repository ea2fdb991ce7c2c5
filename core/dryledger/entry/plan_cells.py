"""What people type into a plan: durations, links, constraints and shifts, in words; read or refused in a sentence.

A link is the code it comes after, with its type and lag where they are not the plain ones: ``A100``,
``A110 SS lag 2d``, ``A120 lead 4h``, ``A130 FF lag 6h by the clock``. Several stand apart by semicolons or commas.
"""

import itertools
import re
from collections.abc import Iterable
from dataclasses import dataclass

from dryledger.book.plan import Constraint, Link
from dryledger.book.reader import ELAPSED_MINUTES, duration_text, split_duration
from dryledger.calendar.calendar import Axis, Calendar, Instant, from_text
from dryledger.entry.grammar import format_day, type_date, type_duration
from dryledger.errors import EntryRefused
from dryledger.formats import format_number
from dryledger.words import sentence

__all__ = [
    "CONSTRAINT_WORDS",
    "TypedLink",
    "constraint_sentence",
    "link_words",
    "links_text",
    "possible",
    "type_constraint",
    "type_instant",
    "type_lag",
    "type_links",
    "type_shifts",
    "type_span",
]

CONSTRAINT_WORDS = {
    "start_on_or_after": sentence("plan_cells.start_after"),
    "start_on_or_before": sentence("plan_cells.start_before"),
    "finish_on_or_after": sentence("plan_cells.finish_after"),
    "finish_on_or_before": sentence("plan_cells.finish_before"),
    "must_start_on": sentence("plan_cells.must_start"),
    "must_finish_on": sentence("plan_cells.must_finish"),
    "as_late_as_possible": sentence("plan_cells.late_possible"),
}
_SHORT = {"no earlier than": "on or after", "not before": "on or after", "no later than": "on or before", "not after": "on or before"}
_LINK = re.compile(
    r"(?P<code>.+?)(?:\s+(?P<type>fs|ss|ff|sf))?"
    r"(?:\s+(?P<sign>lag(?:\s*[-−])?|lead)\s*(?P<lag>[\d.,]+\s*[a-z]*?))?(?P<clock>\s+by the clock)?",
    re.I,
)
_CLOCK = re.compile(r"(\d{1,2})(?::?(\d{2}))?\s*(?:-|–|to)\s*(\d{1,2})(?::?(\d{2}))?")


def type_span(text: str, calendar: Calendar, field: str = "duration") -> str | None:
    """A planned duration as the book writes it, from "5", "5d", "2w", "4h" or "1.5d"; None for an empty cell.

    >>> type_span("1,5 days", Calendar("c", "c", ()))
    '1.5d'
    """
    got = type_duration(text, calendar, field)
    return None if got is None else got[1]


def type_instant(text: str, field: str, near: Instant, axis: Axis, closing: bool = False) -> Instant | None:
    """A planned date near an instant, from "12 feb", "12/2 14:00", "+3d" or "2027-02-12"; None for an empty cell.

    Without a time a start is the first working minute of the date, a finish (`closing`) the last.
    """
    try:
        return from_text(text.strip())
    except ValueError:
        return type_date(text, field, near - near % 1440, axis, closing)


def type_lag(text: str, calendar: Calendar, basis: str = "working", field: str = "lag") -> str:
    """A lag as the book writes it, from "2d", "lag 2d", "lead 4h", "-4h" or "lag -4h"; "0d" for an empty cell.

    >>> type_lag("lead 4h", Calendar("c", "c", ()))
    '-4h'
    """
    bare = re.sub(r"^lag\s*(?=[+-])", "", text.strip().lower().replace("−", "-"))
    sign = "-" if bare.startswith(("lead", "-")) else ""
    bare = re.sub(r"^(lag|lead|[+-])\s*", "", bare)
    if not bare:
        return "0d"
    got = type_duration(bare, calendar, field)
    assert got is not None
    unit = split_duration(got[1])
    if basis == "elapsed" and (unit is None or unit[1] not in ELAPSED_MINUTES):
        raise EntryRefused(field, sentence("plan_cells.clock_lag_counted_minutes"))
    return sign + got[1] if unit is not None and unit[0] else "0d"


@dataclass(frozen=True)
class TypedLink:
    """A link as typed: from which activity, its type, its lag as the book writes it and on which basis."""

    code: str
    type: str = "FS"
    lag: str = "0d"
    basis: str = "working"


def type_links(text: str, calendar: Calendar, known: Iterable[str], field: str = "after") -> list[TypedLink]:
    """The links of a cell. `known` are the codes that a link may name. Raises EntryRefused.

    >>> five = Calendar("c", "c", ())
    >>> type_links("a100; A110 ss lag 2d", five, ["A100", "A110"])[1]
    TypedLink(code='A110', type='SS', lag='2d', basis='working')
    """
    codes = {c.lower(): c for c in known}
    out: list[TypedLink] = []
    for part in (p.strip() for p in re.split(r"[;,\n](?!\d)", text)):
        if not part:
            continue
        exact = codes.get(part.lower())
        found = None if exact else _LINK.fullmatch(part)
        if exact is None and found is None:
            raise EntryRefused(field, sentence("plan_cells.no_link_code_ss", value=part[:60]))
        code = exact or (codes.get(found["code"].strip().lower()) if found else None)
        if code is None:
            named = found["code"].strip() if found else part
            begun = max((c for c in codes if part.lower().startswith(c)), key=len, default=None)
            if begun is not None:
                raise EntryRefused(
                    field,
                    sentence("plan_cells.cant_read_link_type", value=part[:60], value_2=codes[begun]),
                )
            raise EntryRefused(field, sentence("plan_cells.no_activity_code_one", value=named[:60]))
        link = TypedLink(code)
        if found is not None:
            basis = "elapsed" if found["clock"] else "working"
            lag = type_lag(f"{found['sign']} {found['lag']}", calendar, basis, field) if found["lag"] else "0d"
            link = TypedLink(code, (found["type"] or "FS").upper(), lag, basis)
        if any((k.code, k.type) == (code, link.type) for k in out):
            raise EntryRefused(field, sentence("plan_cells.stands_twice_keep_one", code=code))
        out.append(link)
    return out


def _lag_words(lag: int, basis: str, calendar: Calendar) -> str:
    if not lag:
        return ""
    text = f"{abs(lag) // 60}h" if basis == "elapsed" and lag % 60 == 0 else f"{abs(lag)}min" if basis == "elapsed" else ""
    text = format_number(text or duration_text(abs(lag), calendar, ("d", "h", "min")))
    return f"{'lag' if lag > 0 else 'lead'} {text}{' by the clock' if basis == 'elapsed' else ''}"


def links_text(links: Iterable[Link], calendar: Calendar) -> str:
    """Links as a cell shows them; `type_links` reads them back.

    >>> links_text([Link("A110", "B", "SS", -480)], Calendar("c", "c", ()))
    'A110 SS lead 1d'
    """
    parts = []
    for k in links:
        words = [k.source, "" if k.type == "FS" else k.type, _lag_words(k.lag, k.lag_basis, calendar)]
        parts.append(" ".join(w for w in words if w))
    return "; ".join(parts)


def link_words(k: Link, name: str, calendar: Calendar) -> str:
    """A link as a sentence of its target, naming the source.

    >>> link_words(Link("A", "B", "FS", 480), "Dig", Calendar("c", "c", ()))
    'starts when Dig has finished, lag 1d'
    """
    words = {
        "FS": sentence("plan_cells.starts_when_finished", name=name),
        "SS": sentence("plan_cells.starts_when_started", name=name),
        "FF": sentence("plan_cells.finishes_when_finished", name=name),
        "SF": sentence("plan_cells.finishes_when_started", name=name),
    }[k.type]
    lag = _lag_words(k.lag, k.lag_basis, calendar)
    return f"{words}, {lag}" if lag else words


def type_constraint(text: str, near: Instant, axis: Axis, field: str = "constraint") -> Constraint | None:
    """A constraint from its sentence, such as "start on or after 1 feb" or "as late as possible"; None when empty."""
    bare = re.sub(r"\s+", " ", text.strip().lower())
    if not bare:
        return None
    for short, full in _SHORT.items():
        bare = bare.replace(short, full)
    bare = re.sub(r"^must (start|finish) (?!on\b)", r"must \1 on ", bare)
    for kind, words in CONSTRAINT_WORDS.items():
        if bare.startswith(words):
            rest = bare[len(words) :].strip()
            if kind == "as_late_as_possible":
                return Constraint(kind, None)
            at = type_instant(rest, field, near, axis, "finish" in words)
            if at is None:
                raise EntryRefused(field, sentence("plan_cells.needs_date_feb", words=words))
            return Constraint(kind, possible(kind, at, axis, field))
    options = ", ".join(CONSTRAINT_WORDS.values())
    raise EntryRefused(field, sentence("plan_cells.constraint_begin_one", value=text.strip()[:40], options=options))


def possible(kind: str, at: Instant, axis: Axis, field: str = "constraint") -> Instant:
    """The instant of a constraint; raises EntryRefused where something must start or finish on a date without working time."""
    opens = at - at % 1440
    if kind in ("must_start_on", "must_finish_on") and axis.between(opens, opens + 1440) == 0:
        does = kind.split("_")[1]
        nearest = " ".join((CONSTRAINT_WORDS[kind], format_day(axis.last(axis.pos(opens)))))
        raise EntryRefused(field, sentence("plan_cells.no_work_that_day", day=format_day(at), does=does), nearest)
    return at


def constraint_sentence(c: Constraint | None) -> str:
    """A constraint as its cell shows it.

    >>> constraint_sentence(Constraint("start_on_or_after", from_text("2027-02-01T08:00")))
    'start on or after 1 February 2027, 08:00'
    """
    return "" if c is None else CONSTRAINT_WORDS[c.type] + ("" if c.at is None else f" {format_day(c.at, True)}")


def type_shifts(text: str, field: str = "shifts") -> list[str]:
    """The shifts of a day from "8-12, 13-17" or "08:00-12:00"; empty for "", "off" or "none".

    >>> type_shifts("8-12, 13:30-17")
    ['08:00-12:00', '13:30-17:00']
    """
    bare = text.strip().lower()
    if bare in ("", "off", "none", "–", "-"):
        return []
    out: list[tuple[int, int]] = []
    for part in re.split(r"[,;]| and ", bare):
        found = _CLOCK.fullmatch(part.strip())
        a, b = (int(found[1]) * 60 + int(found[2] or 0), int(found[3]) * 60 + int(found[4] or 0)) if found else (0, 0)
        if found is None or not a < b <= 1440 or int(found[2] or 0) > 59 or int(found[4] or 0) > 59:
            raise EntryRefused(field, sentence("plan_cells.no_shift_hours_leave", value=part.strip()[:40]))
        out.append((a, b))
    out.sort()
    if any(x[1] > y[0] for x, y in itertools.pairwise(out)):
        raise EntryRefused(field, sentence("plan_cells.two_these_shifts_overlap"))
    return [f"{a // 60:02}:{a % 60:02}-{b // 60:02}:{b % 60:02}" for a, b in out]

"""Curves of the project, of an element, of a value of an own field, and of any selection, which has its measures too."""

from collections.abc import Sequence
from decimal import Decimal

from dryledger.by_value import value_of_field
from dryledger.calendar.calendar import to_text
from dryledger.spending import SpendingRow, by_kind
from dryledger.value.curve import Point
from dryledger.value.measures import Measures
from dryledger.value.reading import Added, added, forecasts
from dryledger.working.gaps import earned_on, gap_sentences
from server.book.results import View
from server.shared.problems import Refused
from server.shared.words import sentence
from server.value.selectors import columns_of, text_of
from server.value.shapes import CurveOut, KindOfCostOut, MeasureRow, PointOut, SelectionOut

Of = tuple[str, str] | None
"""An own field and its value, where a curve is of those."""


def _money(value: Decimal | None) -> str | None:
    return None if value is None else f"{value:f}"


def curve(v: View, wbs: str | None, bucket: str, baselines: Sequence[str] | None = None, of: Of = None) -> CurveOut:
    """The curve of the project, a WBS element, or the activities that have a value of an own field (`of`: field and value).

    With the planned value of other baselines (absent: the compared ones). Raises Refused for what is not there.
    """
    r = v.results
    if of is not None:
        field, wanted = of
        try:
            known = value_of_field(r, field)
        except KeyError:
            raise Refused("not-found", sentence("value.no_own_field", field=field[:60], code=v.project.code), 404, field="field") from None
        codes = [code for code, value in known.items() if value == wanted]
        found = r.curve_of_selection(codes, (), bucket, _others(v, baselines))
        return _curve(v, "", bucket, r.selection(codes), found, codes)
    if wbs is not None and wbs not in r.wbs:
        raise Refused("not-found", sentence("value.no_wbs_element", wbs=wbs, code=v.project.code), 404)
    m = r.project if wbs is None else r.wbs[wbs]
    return _curve(v, wbs or "", bucket, m, r.curve_of(wbs, bucket, _others(v, baselines)), r.valuation.scope(wbs).activities)


def _curve(v: View, scope: str, bucket: str, m: Measures, found: list[Point], activities: list[str]) -> CurveOut:
    r = v.results
    later = forecasts(found, m.ac, m.eac, r.valuation.unit)
    points = [_point(p, more, by_eac) for p, more, by_eac in zip(found, added(found), later, strict=True)]
    return CurveOut(
        scope,
        bucket,
        v.page.status,
        points,
        f"{m.pv:f}",
        f"{m.ev:f}",
        f"{m.ac:f}",
        f"{m.bac:f}",
        _money(m.sv),
        _money(m.cv),
        m.earned_schedule,
        m.sv_t,
        to_text(earned) if (earned := earned_on(r, activities, m)) is not None else None,
        gap_sentences(r, m),
        {key: f"{x:f}" for key, x in m.eac.items() if x is not None},
        r.book.project.eac,
        [b.code for b in r.book.baselines if r.baseline is None or b.code != r.baseline.code],
    )


def _point(p: Point, more: Added, by_eac: dict[str, Decimal]) -> PointOut:
    return PointOut(
        to_text(p.end),
        f"{p.pv:f}",
        _money(p.ev),
        _money(p.ac),
        _money(p.forecast),
        {k: f"{x:f}" for k, x in p.others.items()},
        {k: f"{x:f}" for k, x in by_eac.items()},
        f"{more.pv:f}",
        _money(more.ev),
        _money(more.ac),
    )


def _others(v: View, baselines: Sequence[str] | None) -> tuple[str, ...] | None:
    """The codes of baselines that are asked for. Raises Refused for an unknown one."""
    for code in baselines or ():
        if code not in v.book.baseline_by_code:
            raise Refused("not-found", sentence("value.no_baseline", code=code[:60]), 404, field="baselines")
    return None if baselines is None else tuple(dict.fromkeys(baselines))


def selection(
    v: View,
    activities: list[str],
    wbs: list[str],
    bucket: str,
    asked: Sequence[str] = (),
    baselines: Sequence[str] | None = None,
    split: bool = False,
) -> SelectionOut:
    """The measures and the curve of any activities and whole elements, each counted once. Raises Refused for an unknown code."""
    r = v.results
    for code, known in [*((c, r.valuation.activity_codes) for c in activities), *((c, r.book.wbs_above) for c in wbs)]:
        if code not in known:
            raise Refused("not-found", sentence("value.no_row", code=code[:60], project=v.project.code), 404)
    scope, m, keys = r.valuation.selection(activities, wbs), r.selection(activities, wbs), [c.key for c in columns_of(v, asked)]
    figures, reasons = _selected(v, m, keys)
    row = MeasureRow("selection", "", "", 0, None, None, figures, reasons)
    found = r.curve_of_selection(activities, wbs, bucket, _others(v, baselines))
    kinds = [_kind(x) for x in by_kind(r, activities, wbs)] if split else []
    return SelectionOut(len(scope.activities), row, kinds, _curve(v, "", bucket, m, found, scope.activities))


def _kind(x: SpendingRow) -> KindOfCostOut:
    return KindOfCostOut(x.name, x.sums, *(f"{x.whole(of):f}" for of in ("budget", "actual", "remaining", "forecast", "difference")))


def _selected(v: View, m: Measures, keys: Sequence[str]) -> tuple[dict[str, str | None], dict[str, str]]:
    """The measures of a selection among the figures that are asked for, with why one is not there; all else says nothing of one."""
    figures: dict[str, str | None] = {}
    reasons: dict[str, str] = {}
    for key in keys:
        full = f"eac.{v.book.project.eac}" if key == "eac" else key
        if full.startswith("eac."):
            value = m.eac[full.removeprefix("eac.")]
        else:
            value = m.ac_by_source.get(key.removeprefix("ac.")) if key.startswith("ac.") else getattr(m, key, None)
        figures[key] = text_of(value) if isinstance(value, Decimal | float | str) else None
        if figures[key] is None:
            reasons[key] = m.reasons.get(full, sentence("value.not_of_selection"))
    return figures, reasons

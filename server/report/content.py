"""A report's content for screens, HTML, PDF and workbook alike: facts from the core, words from the draft, in the project's layout."""

from collections.abc import Callable, Mapping

from dryledger.book.options import promise_at
from dryledger.book.report_layout import OWN_HEADS, SECTIONS
from dryledger.calendar.calendar import to_text
from dryledger.marks.marks import mark_word
from dryledger.report.drafting import drafted_decisions, drafted_summary
from dryledger.report.facts import ReportFacts, report_facts
from dryledger.report.heads import HEAD_MARKS, head_mark, trend_of
from dryledger.report.own_fields import project_fields
from dryledger.value.rebased import rebased
from server.book.access import Access
from server.book.models import Page
from server.book.results import View, view_of
from server.journal.models import Step
from server.report import money_sections as of_money
from server.report import sections as made
from server.report.drafts import draft_of, empty_draft, layout_of, words_of
from server.report.models import Delivery, Edition
from server.report.review import review_of
from server.report.shapes import (
    DeliveryOut,
    DraftOut,
    EditionOut,
    HeadWords,
    LayoutOut,
    ReportHead,
    ReportOut,
    ReportSection,
    SectionChoice,
)
from server.shared.problems import Refused
from server.shared.words import sentence
from server.value.curves import curve
from server.value.selectors import balance_of
from server.value.trend import trend

STATUSES = HEAD_MARKS
"""What a report, and each of its heads, can be."""


def layout_out(v: View) -> LayoutOut:
    """All sections in the project's order, what is hidden last."""
    x = layout_of(v)
    order = [*x.shown, *(key for key in SECTIONS if key not in x.shown)]
    choices = [SectionChoice(key, title(key), key in x.shown) for key in order]
    return LayoutOut(bool(v.book.report_layout), choices, list(x.heads), int(x.levels))


def title(key: str) -> str:
    """The title of a section."""
    return sentence(f"report.title_{key}")


def view_before(v: View) -> View | None:
    """The page before as it stood, None on the first one."""
    page = Page.objects.filter(project=v.project, order__lt=v.page.order).defer("inputs", "results").order_by("-order").first()
    return None if page is None else view_of(v.project, page)


def heads_of(v: View, draft: DraftOut, before: View | None, earlier: DraftOut) -> list[ReportHead]:
    """Schedule, cost and the project's own heads: what was said of each, else what the figures propose."""
    return [_head(v, name, draft, before, earlier) for name in (*OWN_HEADS, *layout_of(v).heads)]


def _head(v: View, name: str, draft: DraftOut, before: View | None, earlier: DraftOut) -> ReportHead:
    own, typed = name not in OWN_HEADS, draft.heads.get(name, HeadWords("", ""))
    proposed = None if own else head_mark(v.results, name)
    mark = typed.mark or (proposed.mark if proposed else "")
    reason = typed.reason
    if not reason.strip() and proposed is not None and mark == proposed.mark and mark != "on_plan":
        reason = " ".join(proposed.reasons)
    was = earlier.heads[name].mark if name in earlier.heads else ""
    if not was and before is not None and not own:
        was = head_mark(before.results, name).mark
    reasons = list(proposed.reasons) if proposed else []
    word = mark_word(mark) if mark else sentence("report.not_said")
    return ReportHead(name, mark, word, reason, bool(typed.mark), own, proposed.mark if proposed else "", reasons, was, trend_of(was, mark))


def sections_of(
    v: View, facts: ReportFacts, draft: DraftOut, before: View | None, earlier: DraftOut, keys: tuple[str, ...]
) -> list[ReportSection]:
    """The sections that are shown, in their order; of buffers and other projects only where there are such."""
    book, pages = v.book, v.results.at.periods
    there = {
        "buffers": promise_at(book, len(pages)) is not None,
        "waiting": bool(book.externals),
        "orders": bool(book.orders),
        "under_change": bool(book.reserves) or any(c.lines for c in book.changes),
        "rebased": any(rebased(v.results.book, pages)),
    }
    return [_section(v, key, facts, draft, before, earlier) for key in keys if there.get(key, True)]


def _section(v: View, key: str, facts: ReportFacts, draft: DraftOut, before: View | None, earlier: DraftOut) -> ReportSection:
    added = [x for x in draft.added if x.section == key]
    out = ReportSection(key, title(key), words_of(draft, key), words_of(earlier, key), "", [], [], [], "", added)
    _FILL[key](_Making(v, facts, draft, before, earlier), out)
    return out


class _Making:
    """What the sections of a report are made from."""

    def __init__(self, v: View, facts: ReportFacts, draft: DraftOut, before: View | None, earlier: DraftOut) -> None:
        self.v, self.facts, self.draft, self.before, self.earlier = v, facts, draft, before, earlier


def _overall(m: _Making, out: ReportSection) -> None:
    out.tables = [made.key_figures(m.v, m.before)]


def _heads(m: _Making, out: ReportSection) -> None:
    out.heads = heads_of(m.v, m.draft, m.before, m.earlier)


def _summary(m: _Making, out: ReportSection) -> None:
    out.drafted = drafted_summary(m.v.results, len(m.facts.worked_on))


def _decisions(m: _Making, out: ReportSection) -> None:
    out.drafted = drafted_decisions(m.v.results)


def _curve(m: _Making, out: ReportSection) -> None:
    out.chart = "curve"


def _indices(m: _Making, out: ReportSection) -> None:
    out.chart, out.tables = "indices", [made.indices(m.v, trend(m.v).pages)]


def _buffers(m: _Making, out: ReportSection) -> None:
    out.sentences, out.tables = made.buffers(m.v)


def _waiting(m: _Making, out: ReportSection) -> None:
    out.tables = [made.waiting(m.v)]


def _treatment(m: _Making, out: ReportSection) -> None:
    out.sentences, table = made.treatment(m.v)
    out.tables = [table]


def _money(m: _Making, out: ReportSection) -> None:
    out.sentences, out.tables = of_money.reckoned(m.v), made.money(m.v, int(layout_of(m.v).levels))


def _by_month(m: _Making, out: ReportSection) -> None:
    out.tables = [of_money.by_month(m.v)]


def _orders(m: _Making, out: ReportSection) -> None:
    out.tables = [of_money.placed_orders(m.v)]


def _under_change(m: _Making, out: ReportSection) -> None:
    out.tables = of_money.under_change(m.v, int(layout_of(m.v).levels))


def _rebased(m: _Making, out: ReportSection) -> None:
    out.sentences, table = of_money.baselines(m.v)
    out.tables = [table]


def _work(done: bool) -> Callable[[_Making, ReportSection], None]:
    def fill(m: _Making, out: ReportSection) -> None:
        out.tables = [made.work(m.v, m.facts.worked_on if done else m.facts.coming_next, m.facts.field_names, done)]

    return fill


def _register(name: str) -> Callable[[_Making, ReportSection], None]:
    def fill(m: _Making, out: ReportSection) -> None:
        out.tables = [made.register(m.v, m.before, name)]

    return fill


def _milestones(m: _Making, out: ReportSection) -> None:
    out.tables = [made.milestones(m.v, m.facts.milestones)]


def _checks(m: _Making, out: ReportSection) -> None:
    out.tables = [made.answered(m.v)]


def _corrections(m: _Making, out: ReportSection) -> None:
    out.tables = [made.corrected(m.v)]


_FILL: Mapping[str, Callable[[_Making, ReportSection], None]] = {
    "overall": _overall,
    "heads": _heads,
    "summary": _summary,
    "decisions": _decisions,
    "curve": _curve,
    "milestones": _milestones,
    "worked_on": _work(True),
    "coming_next": _work(False),
    "money": _money,
    "by_month": _by_month,
    "orders": _orders,
    "under_change": _under_change,
    "rebased": _rebased,
    "indices": _indices,
    "buffers": _buffers,
    "waiting": _waiting,
    **{name: _register(name) for name in ("issues", "changes", "risks")},
    "checks": _checks,
    "treatment": _treatment,
    "corrections": _corrections,
}


def edition_of(access: Access, page: str, number: str) -> Edition:
    """An edition of a page by its number. Raises Refused where there is none."""
    found = Edition.objects.filter(page=access.page(page), number=int(number)).first() if number.isdecimal() else None
    if found is None:
        raise Refused("not-found", sentence("report.page_no_edition", page=page, number=number), 404)
    return found


def edition_out(e: Edition) -> EditionOut:
    """An edition as listed."""
    files = ["html", "pdf", *(["xlsx"] if e.content is not None else [])]
    sent = [DeliveryOut(d.name, d.email, d.state, d.detail, d.sent_by.full_name, d.sent_at.isoformat(timespec="minutes")) for d in _sent(e)]
    at = e.issued_at.isoformat(timespec="minutes")
    return EditionOut(e.number, e.status, mark_word(e.status), e.issued_by.full_name, at, e.digest, files, sent)


def _sent(e: Edition) -> list[Delivery]:
    return list(Delivery.objects.filter(edition=e).select_related("sent_by"))


NO_FIGURES = ("report", "layout", "note", "answer")
"""Kinds of steps that change no figure."""


def _words_since(page: Page) -> list[str]:
    """What was done after the words of a page were written: up to its close, or until now."""
    steps = Step.objects.filter(project=page.project_id, undone=False, sealed_as__isnull=True)
    written = steps.filter(kind="report", label=sentence("report.words_report", code=page.code)).order_by("-revision").first()
    if written is None:
        return []
    later = steps.filter(revision__gt=written.revision).exclude(kind__in=(*NO_FIGURES, "close")).order_by("-revision")
    if page.closed_at is not None:
        later = later.filter(at__lte=page.closed_at)
    return list(later.values_list("label", flat=True)[:20])


def report(v: View) -> ReportOut:
    """The whole report of a view."""
    facts, before, draft = report_facts(v.book, v.results), view_before(v), draft_of(v.page)
    earlier = draft_of(before.page) if before else empty_draft()
    periods = v.results.at.periods
    since = periods[-2].status if len(periods) > 1 else v.book.project.start
    editions = Edition.objects.filter(page=v.page).defer("html", "pdf", "xlsx").select_related("issued_by")
    was = earlier.status or (report_facts(before.book, before.results).proposed.mark if before else "")
    mark = draft.status or facts.proposed.mark
    return ReportOut(
        v.project.code,
        v.book.project.name,
        v.book.project.client,
        v.book.project.manager,
        project_fields(v.book),
        v.page.code,
        len(periods),
        v.page.state,
        v.page.status,
        to_text(since),
        v.project.revision,
        v.calculation,
        facts.proposed.mark,
        facts.proposed.word,
        list(facts.proposed.reasons),
        was,
        trend_of(was, mark),
        earlier.reason,
        draft,
        balance_of(v),
        v.results.baseline.name if v.results.baseline else None,
        sections_of(v, facts, draft, before, earlier, layout_of(v).shown),
        layout_out(v),
        curve(v, None, "week"),
        review_of(v.page),
        [edition_out(e) for e in editions],
        _words_since(v.page),
        v.project.brought_in,
    )

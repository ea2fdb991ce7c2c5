"""What the report room answers: a report as sections of texts and tables, the same for screen, HTML, PDF and workbook."""

from dataclasses import dataclass

from server.value.shapes import BalanceOut, CurveOut


@dataclass
class FigureAt:
    """Where the working of a number is: a figure, its scope, and the page it is of."""

    measure: str
    kind: str
    code: str
    page: str


@dataclass
class ReportCell:
    """A cell: its value as files write it, a line under it, where its working is, and its kind where it is not its column's."""

    text: str | None
    note: str = ""
    figure: FigureAt | None = None
    kind: str = ""


@dataclass
class ReportColumn:
    """A column: its key, its head, and what it holds: text, money, ratio, percent, days (late or early),
    length (in days), day, mark."""

    key: str
    title: str
    kind: str


@dataclass
class ReportRow:
    """A row, known by its key from edition to edition; `total` stands under a double rule."""

    key: str
    cells: list[ReportCell]
    total: bool = False


@dataclass
class ReportTable:
    """A table of a section. `empty` says in words that it has no rows."""

    key: str
    title: str
    columns: list[ReportColumn]
    rows: list[ReportRow]
    empty: str


@dataclass
class ReportHead:
    """Where one head stands: its mark, the reason, what the figures propose, the last page's mark and which way it went."""

    name: str
    mark: str
    word: str
    reason: str
    stated: bool
    """Whether somebody chose the mark; else it is the figures' own."""
    own: bool
    proposed: str
    proposed_reasons: list[str]
    was: str
    trend: str


@dataclass
class AddedOut:
    """Something added to the sealed words of a page: to which section, its mark (empty where it gives none), and all of it in words."""

    section: str
    mark: str
    line: str


@dataclass
class ReportSection:
    """A section: words of the analyst's, those of the last page, what the program drafts, sentences, tables, and a chart.

    `chart` is curve, indices or nothing.
    """

    key: str
    title: str
    words: str
    words_before: str
    drafted: str
    sentences: list[str]
    tables: list[ReportTable]
    heads: list[ReportHead]
    chart: str
    added: list[AddedOut]


@dataclass
class SectionChoice:
    """A section that a report may show."""

    key: str
    title: str
    shown: bool


@dataclass
class LayoutOut:
    """How the project's report is laid out: all sections in their order, heads of its own, WBS levels of money."""

    own: bool
    sections: list[SectionChoice]
    heads: list[str]
    levels: int


@dataclass
class HeadWords:
    """What was said of a head."""

    mark: str
    reason: str


@dataclass
class DraftOut:
    """What the analyst says; `status` empty means that nothing was chosen yet. `words` is the summary, `texts` the other sections'.

    Marks and reasons are those added last where any were added after the page was sealed; `sealed` tells then what the overall status
    and its reason were.
    """

    status: str
    reason: str
    words: str
    texts: dict[str, str]
    heads: dict[str, HeadWords]
    sealed: str
    added: list[AddedOut]


@dataclass
class CommentOut:
    """A reviewer's comment beside a section; `settled_by` is who dealt with it."""

    id: int
    section: str
    text: str
    by: str
    at: str
    settled_by: str


@dataclass
class ReviewOut:
    """Where the review stands: writing, review, sent_back, approved; `changed` where the words changed since that was said."""

    state: str
    by: str
    at: str
    text: str
    changed: bool
    comments: list[CommentOut]


@dataclass
class DeliveryOut:
    """An edition sent to somebody: delivered or bounced, with what the mail server said."""

    name: str
    email: str
    state: str
    detail: str
    sent_by: str
    sent_at: str


@dataclass
class EditionOut:
    """One issued edition. `files` are the forms it is kept in."""

    number: int
    status: str
    status_word: str
    issued_by: str
    issued_at: str
    digest: str
    files: list[str]
    deliveries: list[DeliveryOut]


@dataclass
class ReportOut:
    """The report of a page."""

    project: str
    project_name: str
    client: str
    manager: str
    fields: list[tuple[str, str]]
    """What its own fields of the project say, of those that reports show: name and value."""
    page: str
    number: int
    state: str
    status_date: str
    period_start: str
    revision: int
    calculation: int
    proposed: str
    proposed_word: str
    proposed_reasons: list[str]
    was: str
    trend: str
    reason_before: str
    draft: DraftOut
    balance: BalanceOut
    baseline_name: str | None
    sections: list[ReportSection]
    report_layout: LayoutOut
    curve: CurveOut
    review: ReviewOut
    editions: list[EditionOut]
    words_since: list[str]
    """What was done to the project after these words were written, the latest first, as far as figures may have changed by it."""
    brought_in: str
    """Where the project came in with an archive: who brought it, from where, and whether that is proved."""


@dataclass
class RecipientOut:
    """Somebody on the distribution list."""

    id: int
    name: str
    email: str


@dataclass
class IssuedOut:
    """An edition of the project, on any of its pages."""

    page: str
    number: int
    status: str
    issued_by: str
    issued_at: str
    kept: bool
    """Whether its content is kept, so that it can be compared."""


@dataclass
class SendingOut:
    """The distribution list, every edition of the project the newest first, and where the outbox can be looked at."""

    recipients: list[RecipientOut]
    editions: list[IssuedOut]
    outbox: str

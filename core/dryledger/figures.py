"""The catalogue of figures: what can be said of an activity, a WBS element or the project, declared once.

Source: calculation contract, section 14. Measures on screens, workings, checks, marks, formulas of own fields, columns
and results read it; `dryledger.readings` reads the figure itself from Results. Durations are working minutes, per cents
of 100, money is in the project's currency.
"""

from dataclasses import dataclass

from dryledger.words import spoken

__all__ = ["CATALOGUE", "FIELD", "GROUPS", "KINDS", "SCOPES", "Figure", "figure", "figures_of"]

SCOPES = {"a": "activity", "w": "wbs", "p": "project"}
KINDS = ("text", "choice", "flag", "instant", "date", "duration", "money", "percent", "ratio", "number")
FIELD = "field:"
"""What the keys of a project's own fields begin with."""


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure: where it has a meaning, of what kind it is, its word in English and its formula.

    `short` is the trade's abbreviation, for the head of a column; `operands` are keys of the figures in its formula;
    `older` is an older name in the trade. `source` says which part of Results holds it, `name` what a formula of an
    own field calls it.
    """

    key: str
    scopes: str
    kind: str
    english: str
    formula: str
    source: str
    short: str = ""
    operands: tuple[str, ...] = ()
    older: str = ""
    name: str = ""

    @property
    def head(self) -> str:
        """The head of a column: the abbreviation where the trade has one."""
        return spoken(f"figure.{self.key}.short", self.short) or self.word

    @property
    def word(self) -> str:
        """What it is called."""
        return spoken(f"figure.{self.key}", self.english)

    @property
    def group(self) -> str:
        """The group that the figure is offered in: value, variance, index, forecast, time, or plan for all else."""
        return _GROUP_OF.get(self.key, "plan")

    @property
    def variable(self) -> str:
        """The name of the figure in a formula of an own field."""
        return self.name or self.key.replace(".", "_")

    def means(self, scope: str) -> bool:
        """Whether the figure has a meaning for an "activity", a "wbs" element or the "project"."""
        return any(SCOPES[letter] == scope for letter in self.scopes)


def _book(key: str, scopes: str, kind: str, word: str, formula: str = "as in the book") -> Figure:
    return Figure(key, scopes, kind, word, formula, "book")


def _date(key: str, scopes: str, word: str, formula: str, source: str = "schedule", kind: str = "instant") -> Figure:
    return Figure(key, scopes, kind, word, formula, source)


def _length(key: str, scopes: str, word: str, formula: str, source: str, name: str = "") -> Figure:
    return Figure(key, scopes, "duration", word, formula, source, name=name)


def _money(key: str, short: str, word: str, formula: str, operands: str = "", older: str = "") -> Figure:
    return Figure(key, "awp", "money", word, formula, "measures", short, tuple(operands.split()), older)


def _paid(key: str, word: str, formula: str) -> Figure:
    return Figure(key, "awp", "money", word, formula, "paid")


def _changed(key: str, word: str, formula: str) -> Figure:
    return Figure(key, "wp", "money", word, formula, "changed")


def _quotient(key: str, kind: str, short: str, word: str, formula: str, operands: str, scopes: str = "awp") -> Figure:
    return Figure(key, scopes, kind, word, formula, "measures", short, tuple(operands.split()))


CATALOGUE: tuple[Figure, ...] = (
    _book("code", "awp", "text", "Code"),
    _book("name", "awp", "text", "Name"),
    _book("wbs", "aw", "text", "WBS element", "its element; of an element the one above it"),
    _book("kind", "a", "choice", "Kind"),
    _book("mode", "a", "choice", "Dates"),
    _book("constraint", "a", "choice", "Constraint"),
    _book("value_method", "a", "choice", "EV method"),
    _book("calendar", "a", "text", "Calendar"),
    Figure("state", "awp", "choice", "State", "not started, in progress or complete; of a scope once all in it are", "schedule"),
    _date("status_date", "awp", "Status date", "the instant up to which the page knows", "page"),
    _date("start", "awp", "Start", "the least working minute that everything it waits for allows"),
    _date("finish", "awp", "Finish", "the latest finish of all activities"),
    _date("actual_start", "awp", "Actual start", "as stated; of a scope the earliest", "progress"),
    _date("actual_finish", "awp", "Actual finish", "as stated; of a scope the latest, once all is complete", "progress"),
    _date("resume", "a", "Resume", "where the remaining part begins"),
    _date("early_start", "a", "Early start", "the earliest start of what is left"),
    _date("early_finish", "a", "Early finish", "the earliest finish"),
    _date("late_start", "a", "Late start", "late finish less the working time still needed"),
    _date("late_finish", "a", "Late finish", "the latest finish that moves neither the project's finish nor a date that is held"),
    _date("constraint_date", "a", "Constraint date", "as in the book", "book"),
    _date("carry_to", "a", "Carried forward to", "as stated", "progress"),
    _date("baseline_start", "awp", "Baseline start", "as in the baseline; of a scope the earliest", "baseline"),
    _date("baseline_finish", "awp", "Baseline finish", "as in the baseline; of a scope the latest", "baseline"),
    _date("deadline", "ap", "Deadline", "as in the book", "book"),
    _date("imposed_finish", "p", "Imposed finish", "as in the book", "book"),
    Figure(
        "forecast_finish_t",
        "wp",
        "date",
        "Finish by earned schedule",
        "the ⌈planned days ÷ SPI(t)⌉-th working day",
        "measures",
        operands=("spi_t",),
    ),
    _length("total_float", "awp", "Total float", "working minutes from early finish to late finish", "schedule", "float_days"),
    _length("free_float", "a", "Free float", "the least room before a successor, or before the project's finish", "schedule"),
    _length("remaining", "a", "Remaining duration", "as stated, else from hours to go, percent or time gone", "schedule"),
    _length("duration", "awp", "Duration", "planned if not started, else time gone + remaining; of a scope from start to finish", "work"),
    _length("work", "awp", "Work", "labour worked + to go", "work"),
    _length("work_actual", "awp", "Actual work", "labour posted, or following progress", "work"),
    _length("work_remaining", "awp", "Remaining work", "labour to go", "work"),
    _length("baseline_duration", "awp", "Baseline duration", "as in the baseline; of a scope from start to finish", "baseline"),
    _length("baseline_work", "awp", "Baseline work", "as in the baseline; of a scope the sum", "baseline"),
    _length("start_difference", "awp", "Start against baseline", "start now − baseline start, in working minutes", "differences"),
    _length("finish_difference", "awp", "Finish against baseline", "finish now − baseline finish, in working minutes", "differences"),
    _length("duration_difference", "awp", "Duration against baseline", "duration now − baseline duration", "differences"),
    _length("work_difference", "awp", "Work against baseline", "(labour worked + to go) − baseline work", "differences"),
    _length("deadline_difference", "ap", "Finish against deadline", "finish − deadline, in working minutes", "limits"),
    _length("imposed_difference", "p", "Finish against imposed finish", "finish − imposed finish, in working minutes", "limits"),
    Figure("critical", "a", "flag", "Critical", "total float at or below the project's limit", "schedule"),
    Figure("out_of_sequence", "a", "flag", "Out of sequence", "started or finished before its links allow", "schedule"),
    Figure("change", "awp", "choice", "Against baseline", "in both, added since, or removed since", "differences"),
    Figure("percent", "a", "percent", "Percent complete", "as stated, else time gone ÷ (time gone + remaining)", "progress"),
    Figure("percent_planned", "awp", "percent", "Percent planned", "100 × PV ÷ BAC", "sums", operands=("pv", "bac")),
    Figure("percent_earned", "awp", "percent", "Percent earned", "100 × EV ÷ BAC", "sums", operands=("ev", "bac")),
    Figure("percent_spent", "awp", "percent", "Percent spent", "100 × AC ÷ BAC", "sums", operands=("ac", "bac")),
    _money("bac", "BAC", "Budget at completion", "BAC = Σ budgeted cost in the baseline"),
    _money("pv", "PV", "Planned value", "PV = Σ budget × share planned by the status date", "", "BCWS"),
    _money("ev", "EV", "Earned value", "EV = Σ budget × share done", "", "BCWP"),
    _money("ac", "AC", "Actual cost", "AC = posted hours × rate + dated costs + what follows progress", "", "ACWP"),
    _money("sv", "SV", "Schedule variance", "SV = EV − PV", "ev pv"),
    _money("cv", "CV", "Cost variance", "CV = EV − AC", "ev ac"),
    _money("eac", "EAC", "Estimate at completion", "the estimate that the project has chosen"),
    _money("etc", "ETC", "Estimate to complete", "ETC = EAC − AC", "eac ac"),
    _money("vac", "VAC", "Variance at completion", "VAC = BAC − EAC", "bac eac"),
    _money("eac.bottom_up", "", "Estimate at completion, bottom up", "EAC = AC + remaining work + still to be paid", "ac"),
    _money("eac.cpi", "", "Estimate at completion, at the cost index", "EAC = AC + (BAC − EV) ÷ CPI", "ac bac ev cpi"),
    _money("eac.budget", "", "Estimate at completion, rest as budgeted", "EAC = AC + (BAC − EV)", "ac bac ev"),
    _money("eac.cpi_spi", "", "Estimate at completion, at both indices", "EAC = AC + (BAC − EV) ÷ (CPI × SPI)", "ac bac ev cpi spi"),
    _money(
        "eac.recent",
        "",
        "Estimate at completion, at the recent cost index",
        "EAC = AC + (BAC − EV) ÷ CPI of the last three pages",
        "ac bac ev",
    ),
    _money("ac.hours", "", "Actual cost from hours", "posted hours × rate"),
    _money("ac.invoice", "", "Actual cost from invoices", "Σ invoices by the status date"),
    _money("ac.accrual", "", "Actual cost from accruals", "Σ accruals that no invoice has met"),
    _money("ac.feed", "", "Actual cost from feeds", "Σ entries of feeds by the status date"),
    _money("ac.correction", "", "Actual cost from corrections", "Σ corrections by the status date"),
    _money("ac.progress", "", "Actual cost following progress", "what is reckoned where nobody posts it"),
    _paid("committed", "Committed", "Σ lines of orders dated by the status date"),
    _paid("to_order", "Still to order", "as stated, else what is planned and not ordered"),
    _paid("to_pay", "Still to pay", "expected − counted, at least 0, of direct costs and materials"),
    _changed("original_bac", "Original budget", "the budget of the first approved baseline"),
    _changed("approved_changes", "Approved changes", "Σ lines of changes approved by the status date"),
    _changed("authorised", "Authorised budget", "original + approved changes"),
    _changed("to_build", "Approved, to build in", "approved changes that no baseline has built in"),
    _changed("unexplained", "Unexplained", "baseline − original − changes built into it: 0 where all is told"),
    _date("original_finish", "awp", "Original finish", "the finish of the first approved baseline", "original"),
    _length(
        "original_finish_difference", "awp", "Finish against the original", "finish now − original finish, in working minutes", "original"
    ),
    Figure("cost", "awp", "money", "Cost now", "estimate at completion, bottom up", "sums", name="cost_now"),
    Figure(
        "cost_difference", "awp", "money", "Cost against baseline", "estimate at completion, bottom up − baseline budget", "differences"
    ),
    _quotient("sv_percent", "percent", "SV%", "Schedule variance, per cent", "SV% = 100 × SV ÷ PV", "sv pv"),
    _quotient("cv_percent", "percent", "CV%", "Cost variance, per cent", "CV% = 100 × CV ÷ EV", "cv ev"),
    _quotient("spi", "ratio", "SPI", "Schedule performance index", "SPI = EV ÷ PV", "ev pv"),
    _quotient("cpi", "ratio", "CPI", "Cost performance index", "CPI = EV ÷ AC", "ev ac"),
    _quotient("tcpi_bac", "ratio", "TCPI (BAC)", "To-complete index, to the budget", "TCPI = (BAC − EV) ÷ (BAC − AC)", "bac ev ac"),
    _quotient("tcpi_eac", "ratio", "TCPI (EAC)", "To-complete index, to the estimate", "TCPI = (BAC − EV) ÷ (EAC − AC)", "bac ev eac ac"),
    _quotient("spi_t", "ratio", "SPI(t)", "Schedule index, in time", "SPI(t) = ES ÷ AT", "earned_schedule actual_time", "wp"),
    _quotient("earned_schedule", "number", "ES", "Earned schedule", "ES = the working day by which the plan had today's EV", "ev", "wp"),
    _quotient("actual_time", "number", "AT", "Actual time", "AT = working days from the baseline start to the status date", "", "wp"),
    _quotient("sv_t", "number", "SV(t)", "Schedule variance, in days", "SV(t) = ES − AT", "earned_schedule actual_time", "wp"),
    # What the plan sheet shows beside the contract's: the plan's own estimates, whatever has been posted since.
    _length("planned_duration", "a", "Planned duration", "the estimate, or the longest work ÷ units", "plan", "days"),
    _length("planned_work", "a", "Planned work", "Σ work of its labour, as planned", "plan", "hours"),
    Figure("planned_cost", "a", "money", "Planned cost", "Σ planned work × rates + direct costs", "plan", name="cost"),
)
GROUPS: dict[str, tuple[str, ...]] = {
    "value": (
        *("bac", "pv", "ev", "ac", "ac.hours", "ac.invoice", "ac.accrual", "ac.feed", "ac.correction", "ac.progress"),
        *("committed", "to_order", "to_pay", "original_bac", "approved_changes", "authorised", "to_build", "unexplained"),
        *("percent_planned", "percent_earned", "percent_spent"),
    ),
    "variance": ("sv", "cv", "sv_percent", "cv_percent", "vac", "cost_difference"),
    "index": ("spi", "cpi", "spi_t", "tcpi_bac", "tcpi_eac"),
    "forecast": ("eac", "etc", "eac.bottom_up", "eac.cpi", "eac.budget", "eac.cpi_spi", "eac.recent", "cost"),
    "time": (
        "earned_schedule",
        "actual_time",
        "sv_t",
        "forecast_finish_t",
        "finish_difference",
        "deadline_difference",
        "original_finish_difference",
    ),
    "plan": (),
}
"""The groups that figures are offered in, with the keys of each; `plan` has all that no other names."""
_GROUP_OF = {key: group for group, keys in GROUPS.items() for key in keys}
_BY_KEY = {f.key: f for f in CATALOGUE}


def figure(key: str) -> Figure:
    """The figure of a key. Raises KeyError where there is none.

    >>> figure("spi").word, figure("spi").kind, figure("total_float").variable
    ('Schedule performance index', 'ratio', 'float_days')
    """
    return _BY_KEY[key]


def figures_of(scope: str, source: str = "") -> tuple[Figure, ...]:
    """The figures that have a meaning for a scope, all or those of one part of Results.

    >>> [f.key for f in figures_of("project", "schedule")][:3]
    ['state', 'start', 'finish']
    """
    return tuple(f for f in CATALOGUE if f.means(scope) and source in ("", f.source))

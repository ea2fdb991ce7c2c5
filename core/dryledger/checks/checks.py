"""Checks: what in a book cannot be true, what needs an entry, and where the plan itself is weak.

Source: calculation contract, section 18. Each check has a stable code, a reason why it matters and a way to mend it;
a finding names the rows that it caught. Severities: `error` cannot be true, `ask` needs an entry, `plan` plan quality.
"""

from dataclasses import dataclass

from dryledger.book.answers import Limits
from dryledger.checks.money import money_rules
from dryledger.checks.plan import overbooked, plan_rules
from dryledger.checks.progress import progress_rules
from dryledger.compute import Results
from dryledger.words import spoken

__all__ = ["CHECKS", "OF_RESOURCES", "Check", "Finding", "checks"]


@dataclass(frozen=True)
class Check:
    """One check: what it finds (a sentence), why it matters, how to mend it, and in what cell (list and key of the book)."""

    code: str
    severity: str
    _says: str
    _why: str
    _mend: str
    cell: str

    @property
    def says(self) -> str:
        """What it finds."""
        return spoken(f"check.{self.code}.says", self._says)

    @property
    def why(self) -> str:
        """Why it matters."""
        return spoken(f"check.{self.code}.why", self._why)

    @property
    def mend(self) -> str:
        """How to mend it."""
        return spoken(f"check.{self.code}.mend", self._mend)


@dataclass(frozen=True)
class Finding:
    """What a check caught: the codes of the rows, in the book's order."""

    check: str
    severity: str
    rows: tuple[str, ...]
    message: str


CHECKS: tuple[Check, ...] = tuple(
    Check(*row)
    for row in (
        ("finished_with_work", "error", "finished, with remaining hours", "The forecast leaves these hours out.", "Post 0 h remaining, or take the finish back.", "hours.to_go"),
        ("full_not_finished", "error", "at 100 % without a finish", "It earns its whole budget while it still runs.", "Post its finish, or a lower percent.", "statements.actual_finish"),
        ("progress_fell", "error", "at a lower percent than on an earlier page", "Earned value falls without a reason.", "Say in a note why, or post the percent again.", "statements.percent"),
        ("cost_fell", "error", "with an actual cost to date below 0", "Nothing can have cost less than nothing.", "Look for a credit note without its invoice, or an entry that was typed with a minus.", "periods.costs"),
        ("pinned_breaks_link", "error", "with fixed dates that its links don't allow", "The dates shown can't be kept.", "Move the fixed dates, or delete the link.", "activities.start"),
        ("progress_without_start", "error", "with progress but no actual start", "What was posted is without effect.", "Post its actual start.", "statements.actual_start"),
        ("assumed_date", "ask", "with a date that is assumed", "Nobody has stated it; it counts like a stated one.", "Confirm it, or type the right one.", "statements.actual_start"),
        ("silent_start", "ask", "due to start by the status date with nothing posted", "The plan moves it without anybody having said so.", "Post its start, or a date to carry it to.", "statements.actual_start"),
        ("silent_finish", "ask", "due to finish by the status date with nothing posted", "The plan moves its finish without anybody having said so.", "Post its finish, or the time it still needs.", "statements.actual_finish"),
        ("nothing_posted", "ask", "in progress with nothing posted on this page", "Its figures are guesses from the page before.", "Post a percent, remaining time, hours or a cost.", "statements.percent"),
        ("remaining_unchanged", "ask", "with the same remaining time for two periods", "Either nothing was done, or nobody looked.", "Post the time that it still needs.", "statements.remaining"),
        ("nothing_remaining", "ask", "with nothing remaining and no finish", "It counts as ending on the status date, whatever its links say.", "Post its finish, or the time it still needs.", "statements.actual_finish"),
        ("out_of_sequence", "ask", "out of sequence", "The links may not be what was agreed.", "Change the link, or choose the treatment of out-of-sequence work.", "links.from"),
        ("percent_far", "ask", "at a percent far from its share of time", "Percent and remaining time tell two stories.", "Post the one that is wrong again.", "statements.percent"),
        ("earned_without_cost", "ask", "with earned value and no actual cost", "CPI looks better than it is.", "Post its hours or cost, or an accrual.", "statements.cost"),
        ("cost_without_earned", "ask", "with actual cost and no earned value", "CPI looks worse than it is.", "Post its progress, or move the cost.", "statements.percent"),
        ("cost_above_budget", "ask", "with actual cost above its budget", "What is left can only make it worse.", "Say why, and look at what remains.", "statements.remaining"),
        ("negative_cost", "ask", "with a negative cost that is no correction", "Actual cost falls by it.", "Say what it is, such as a credit note, or post it as a correction.", "periods.costs"),
        ("unbudgeted", "ask", "unbudgeted: not in the baseline", "It costs and earns nothing.", "Approve a baseline that has it, or say why it is outside the budget.", "activities.name"),
        ("only_accruals", "ask", "whose cost is all accrued", "No invoice or hours stand behind it yet.", "Look for the invoice.", "periods.costs"),
        ("hours_far_below", "ask", "with fewer than half the hours posted that its people would have worked by now", "Its cost looks low, and what labour still costs is forecast too low.", "Post the hours, or let its actuals follow progress.", "hours.worked"),
        ("reckoned_fell", "ask", "whose cost by progress went down", "What was spent on the page before is not spent on this one.", "Look at its start, percent and remaining time.", "statements.remaining"),
        ("reckoned_alone", "ask", "whose hours grew by progress though nothing was said of it", "It may have stood still.", "Post what it still needs, or a pause.", "statements.remaining"),
        ("invoiced_above", "ask", "with more invoiced than is expected", "What is still to pay is 0, and the budget is overspent.", "Say why, or put right what the entry pays.", "periods.costs"),
        ("paid_above", "ask", "paid as a whole, with costs below that are still to pay", "The forecast counts the same cost twice.", "Say in the entry which cost it pays.", "periods.costs"),
        ("cost_never_billed", "ask", "complete for two pages, with a cost still to pay and nothing entered for it", "The forecast waits for an invoice that may never come.", "Post the invoice, or close the cost.", "periods.costs"),
        ("order_over_budget", "ask", "ordered above the budget of what it is for", "The forecast is above the budget by it.", "Raise a change, or put the order right.", "orders.lines"),
        ("baseline_unexplained", "ask", "with a budget that the approved changes don't explain", "Nobody can say who allowed it.", "Raise the change that it carries, or approve a baseline without it.", "changes.lines"),
        ("reserve_below", "ask", "drawn below 0", "More was taken from it than there was.", "Approve more for it, or refuse a change.", "reserves.amount"),
        ("external_late", "ask", "waiting for an activity of another project that is not finished by the status date", "Its dates there can't be kept any more.", "Ask the other project for a date.", "links.from"),
        ("external_old", "ask", "waiting for an activity of another project whose dates are older than the last page", "Nobody has said since what became of it.", "Ask the other project to post its page.", "links.from"),
        ("external_moved", "ask", "waiting for an activity of another project that moved since the last page", "The dates here follow it.", "Say in the report what moved, or agree its date.", "links.from"),
        ("deadline_missed", "ask", "that finishes after its deadline", "Somebody was promised the date.", "Win the time back, or agree another date.", "activities.deadline"),
        ("no_predecessor", "plan", "with no predecessor", "Nothing that happens before it can move it.", "Link it to what it waits for.", "links.from"),
        ("no_successor", "plan", "with no successor", "When it is late, nothing shows it.", "Link it to what waits for it.", "links.to"),
        ("lead", "plan", "with a link of negative lag", "A lead hides work that overlaps.", "Split the activity, or link its start.", "links.from"),
        ("long_lag", "plan", "with a link of long lag", "A lag is work or waiting that nobody owns.", "Make it an activity.", "links.from"),
        ("hard_date", "plan", "with a hard date constraint", "The date stays when the logic moves.", "Use start on or after, or a deadline.", "activities.constraint"),
        ("long_float", "plan", "with very long float", "A link to what waits for it may be missing.", "Look at its successors.", "links.to"),
        ("long_duration", "plan", "with a very long duration", "Its progress can't be told for a long time.", "Split it.", "activities.duration"),
        ("lump_by_share", "plan", "earning by share, with a cost that falls due all at once", "Its cost and its earned value part, whatever is done.", "Let the cost fall due evenly, or let the activity earn at its start or finish.", "costs.amount"),
        ("no_rate", "plan", "at work without a rate, or at a rate of 0", "Its work costs nothing in budget and forecast.", "Give it a rate.", "resources.rates"),
        ("material_by_time", "plan", "a material priced by time", "A material costs by the quantity that is used.", "Give it a rate per unit.", "resources.rates"),
        ("negative_float", "plan", "with negative float", "A constraint or the imposed finish can't be met.", "Shorten what drives it, or move the date.", "activities.constraint"),
        ("milestone_with_duration", "plan", "a milestone that takes time", "A milestone is a moment.", "Take its duration away, or make it a task.", "activities.duration"),
        ("task_without_duration", "plan", "a task that takes no time", "It can't show progress.", "Give it a duration, or make it a milestone.", "activities.duration"),
        ("unassigned", "plan", "with no resource and no cost", "It has no budget and no one to ask.", "Assign a resource, or give it a cost.", "assignments.resource"),
        ("overbooked", "plan", "over-allocated", "The dates can't be kept by the people there are.", "Move work, or add units.", "resources.units"),
        ("no_safe_duration", "plan", "with no safe duration", "The buffers get no safety from it and come out too small.", "Give it the duration that it keeps nine times in ten.", "activities.safe_duration"),
        ("safe_below_even", "plan", "with a safe duration shorter than the one at even odds", "It counts as having no safety at all.", "Put one of the two right.", "activities.safe_duration"),
        ("cost_twice", "plan", "with the same cost twice", "The budget may count it twice.", "Delete one of them.", "costs.amount"),
    )
)  # fmt: skip


ACTIVITIES, RESOURCES, ROWS = ("activity", "activities"), ("resource", "resources"), ("row", "rows")
OF_RESOURCES = ("overbooked", "no_rate", "material_by_time")


def checks(r: Results, limits: Limits | None = None) -> list[Finding]:
    """Every finding, in the order of `CHECKS`; a check that catches nothing is left out. Absent limits are the project's."""
    limits = limits or r.book.project.limits
    found = progress_rules(r, limits) | money_rules(r) | plan_rules(r, limits) | {"overbooked": overbooked(r)}
    book = r.book
    lists = (book.resources, book.wbs, book.orders, book.reserves)
    codes = [*r.schedule.activities, *(x.code for rows in lists for x in rows), book.project.code]
    order = {code: i for i, code in enumerate(codes)}
    out = []
    for check in CHECKS:
        rows = tuple(sorted(found.get(check.code, ()), key=lambda c: order.get(c, len(order))))
        if rows:
            kinds = RESOURCES if check.code in OF_RESOURCES else ACTIVITIES if all(c in book.activity_by_code for c in rows) else ROWS
            what = kinds[len(rows) > 1]
            out.append(Finding(check.code, check.severity, rows, f"{len(rows)} {what} {check.says}. {check.why} {check.mend}"))
    return out

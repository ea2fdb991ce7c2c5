"""`./dry compute BOOK.json`: results on standard output; exit 2 with all errors as JSON where the book is not valid."""

import argparse
import gc
import json
import sys
from datetime import date
from pathlib import Path
from typing import NoReturn

sys.path.insert(0, str(Path(__file__).parents[1]))

from dryledger.book.lists import TREATMENTS
from dryledger.book.plan import Book
from dryledger.calendar.calendar import from_text, midnight
from dryledger.changes.apply import apply
from dryledger.changes.option import Applied
from dryledger.compute import Results, compute
from dryledger.errors import BookInvalid, ChangeRefused, Fault, UnknownPeriod
from dryledger.exchange.book_json import parse_json, read_book
from dryledger.options.board import computed_with, option_named
from dryledger.options.levelling import MODES
from dryledger.results import MORE, PARTS, Asked, results_document
from dryledger.schedule.rhythm import close_of
from dryledger.timeline.progress_line import AGAINST
from dryledger.value.curve import CURVE_BUCKETS

MOST_BYTES = 256 * 1024 * 1024


def refuse(faults: list[Fault]) -> NoReturn:
    """Print the faults and stop."""
    print(json.dumps({"errors": [{"path": f.path, "message": f.message} for f in faults]}, ensure_ascii=False, indent=1), file=sys.stderr)
    sys.exit(2)


def parts(text: str) -> list[str]:
    """The parts wanted, as `--only` names them."""
    wanted = text.split(",")
    for name in wanted:
        if name not in (*PARTS, *MORE):
            raise argparse.ArgumentTypeError(f"“{name}” is no part of the results; they are {', '.join((*PARTS, *MORE))}")
    return wanted


def instants(text: str, book: Book) -> tuple[int, ...]:
    """Dates (each its close) and instants with commas between."""
    out = []
    for part in (x.strip() for x in text.split(",") if x.strip()):
        try:
            out.append(close_of(book.axis, midnight(date.fromisoformat(part))) if len(part) == 10 else from_text(part))
        except ValueError:
            refuse([Fault("", f"“{part}” is no date such as 2027-01-29 or 2027-01-29T17:00")])
    return tuple(out)


def changed(book: Book, file: Path) -> Book:
    """The book with the changes of a file made to it; one that can't be made stops all."""
    try:
        verbs = parse_json(file.read_bytes())
    except OSError as error:
        refuse([Fault("", f"{file} can't be read: {error.strerror}")])
    if not isinstance(verbs, list):
        refuse([Fault("verbs", "expected a list of changes")])
    try:
        return apply(book, verbs).book
    except ChangeRefused as refused:
        cell = f".cells.{refused.field}" if refused.row and refused.field else ""
        refuse([Fault(f"{refused.row or 'verbs'}{cell}", refused.message)])


def with_option(results: Results, code: str) -> tuple[Applied, Results]:
    """The results with an option of the book on top."""
    try:
        return computed_with(results, option_named(results.book, code))
    except KeyError:
        refuse([Fault("", f"there is no option “{code}” in the book")])


def main() -> None:
    parser = argparse.ArgumentParser(prog="./dry compute", description="Compute a book and print its results as JSON.")
    parser.add_argument("book", type=Path)
    parser.add_argument("--period", help="the page to compute for (absent: the last)")
    parser.add_argument("--treatment", choices=TREATMENTS)
    parser.add_argument("--bucket", choices=CURVE_BUCKETS, default="week")
    parser.add_argument(
        "--apply", type=Path, metavar="VERBS.json", help="a list of changes to make first, as docs/formats/changes.md has them"
    )
    parser.add_argument("--only", type=parts, default=list(PARTS), help="parts wanted, with commas: " + ",".join((*PARTS, *MORE)))
    parser.add_argument("--at", default="", metavar="DATE|INSTANT,…", help="where progress lines are drawn (absent: the status date)")
    parser.add_argument("--against", choices=AGAINST, default="baseline", help="the bars that progress lines are put on")
    parser.add_argument("--scope", default="", metavar="wbs:2,activity:A100", help="a selection, for its value, curve and statistics")
    parser.add_argument("--beyond-float", action="store_true", help="level beyond float (absent: within it)")
    parser.add_argument("--option", metavar="CODE", help="an option of the book to put on top first")
    args = parser.parse_args()
    gc.disable()  # one book, then the end: collecting what is still in use only costs time
    try:
        if args.book.stat().st_size > MOST_BYTES:
            refuse([Fault("", "the file is larger than 256 MB: no book is")])
        text = args.book.read_bytes()
    except OSError as error:
        refuse([Fault("", f"{args.book} can't be read: {error.strerror}")])
    try:
        book = read_book(text)
        if args.apply:
            book = changed(book, args.apply)
        results = compute(book, args.period, treatment=args.treatment, bucket=args.bucket)
        option = None
        if args.option:
            applied, results = with_option(results, args.option)
            option = (args.option, applied.conflicts)
        scope = tuple(x for x in args.scope.split(",") if x)
        asked = Asked(instants(args.at, book), args.against, scope, MODES[args.beyond_float], option)
        print(json.dumps(results_document(results, args.only, asked), ensure_ascii=False, indent=1))
    except BookInvalid as error:
        refuse(error.faults)
    except UnknownPeriod as error:
        refuse([Fault("periods", str(error))])
    except KeyError as error:
        refuse([Fault("", f"there is no {error.args[0]} to choose: name elements as wbs:CODE, activities as activity:CODE")])


if __name__ == "__main__":
    main()

"""`./dry compute BOOK.json`: results on standard output; exit 2 with all errors as JSON where the book is not valid."""

import argparse
import gc
import json
import sys
from pathlib import Path
from typing import NoReturn

sys.path.insert(0, str(Path(__file__).parents[1]))

from dryledger.book.lists import TREATMENTS
from dryledger.book.plan import Book
from dryledger.changes.apply import apply
from dryledger.compute import compute
from dryledger.errors import BookInvalid, ChangeRefused, Fault, UnknownPeriod
from dryledger.exchange.book_json import parse_json, read_book
from dryledger.results import PARTS, results_document
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
        if name not in PARTS:
            raise argparse.ArgumentTypeError(f"“{name}” is no part of the results; they are {', '.join(PARTS)}")
    return wanted


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


def main() -> None:
    parser = argparse.ArgumentParser(prog="./dry compute", description="Compute a book and print its results as JSON.")
    parser.add_argument("book", type=Path)
    parser.add_argument("--period", help="the page to compute for (absent: the last)")
    parser.add_argument("--treatment", choices=TREATMENTS)
    parser.add_argument("--bucket", choices=CURVE_BUCKETS, default="week")
    parser.add_argument(
        "--apply", type=Path, metavar="VERBS.json", help="a list of changes to make first, as docs/formats/changes.md has them"
    )
    parser.add_argument("--only", type=parts, default=list(PARTS), help="parts wanted, with commas: " + ",".join(PARTS))
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
        print(json.dumps(results_document(results, args.only), ensure_ascii=False, indent=1))
    except BookInvalid as error:
        refuse(error.faults)
    except UnknownPeriod as error:
        refuse([Fault("periods", str(error))])


if __name__ == "__main__":
    main()

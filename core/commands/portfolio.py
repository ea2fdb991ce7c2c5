"""`./dry portfolio BOOK.json…`: each project as of its last page, and sums by currency; exit 2 with all errors as JSON."""

import argparse
import json
import sys
from decimal import Decimal
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from dryledger.calendar.calendar import Instant, to_text
from dryledger.compute import compute
from dryledger.desk.portfolio import CurrencySum, ProjectFigures, figures_of_project, sums_by_currency
from dryledger.errors import BookInvalid, Fault
from dryledger.exchange.book_json import read_book

MOST_BYTES = 256 * 1024 * 1024
MONEY = ("bac", "pv", "ev", "ac", "eac")
MORE = ("sv", "cv", "etc", "vac")
RATIOS = ("sv_percent", "cv_percent", "spi", "cpi", "tcpi_bac", "tcpi_eac")


def read(path: Path) -> ProjectFigures:
    """The figures of the book in a file. Raises BookInvalid, with the file's name in what is wrong of the whole file."""
    try:
        if path.stat().st_size > MOST_BYTES:
            raise BookInvalid([Fault("", "the file is larger than 256 MB: no book is")])
        return figures_of_project(compute(read_book(path.read_bytes())))
    except OSError as error:
        raise BookInvalid([Fault("", f"can't be read: {error.strerror}")]) from None


def money(amount: Decimal | None) -> str | None:
    return None if amount is None else f"{amount:f}"


def instant(t: Instant | None) -> str | None:
    return None if t is None else to_text(t)


def project_document(x: ProjectFigures) -> dict[str, object]:
    head: dict[str, object] = {"code": x.code, "currency": x.currency, "status": instant(x.status)}
    return head | {key: money(getattr(x, key)) for key in MONEY}


def sum_document(x: CurrencySum) -> dict[str, object]:
    out: dict[str, object] = {"currency": x.currency, "projects": x.projects}
    out["left_out"] = [{"code": code, "reason": reason} for code, reason in x.left_out]
    out |= {key: money(getattr(x, key)) for key in (*MONEY, *MORE)}
    return out | {key: getattr(x, key) for key in RATIOS} | {"reasons": x.reasons}


def main() -> None:
    parser = argparse.ArgumentParser(prog="./dry portfolio", description="Print projects and their sums by currency.")
    parser.add_argument("books", type=Path, nargs="+", metavar="BOOK.json")
    args = parser.parse_args()
    found: list[ProjectFigures] = []
    errors = []
    for path in args.books:
        try:
            found.append(read(path))
        except BookInvalid as wrong:
            errors += [{"file": str(path), "path": f.path, "message": f.message} for f in wrong.faults]
    if errors:
        print(json.dumps({"errors": errors}, ensure_ascii=False, indent=1), file=sys.stderr)
        sys.exit(2)
    document = {"projects": [project_document(x) for x in found], "currencies": [sum_document(x) for x in sums_by_currency(found)]}
    print(json.dumps(document, ensure_ascii=False, indent=1))


if __name__ == "__main__":
    main()

"""The inbox: a folder that sheets come into, by mail or by hand; each is read into the tray of its page, whoever sent it."""

from dataclasses import dataclass
from pathlib import Path

from server.asking.selectors import KINDS
from server.asking.sheet import read_back
from server.shared.problems import Refused
from server.shared.words import sentence

MOST_FILES = 500


@dataclass
class InboxOut:
    """What was read of the inbox, a line a file."""

    lines: list[str]


def read_inbox(folder: Path) -> list[str]:
    """Read what lies in the folder, and put it aside: a line a file. A sheet that can't be read says why in a text beside it."""
    folder.mkdir(parents=True, exist_ok=True)
    out = []
    for file in sorted(f for f in folder.iterdir() if f.is_file() and f.suffix.lower() in KINDS)[:MOST_FILES]:
        try:
            found = read_back(file.name, file.read_bytes())
            told = [sentence("asking.read", name=found.name, page=found.page, count=found.kept)]
            told += [sentence("asking.read_row", row=x.row, code=x.code, why=x.why) for x in found.refused]
            aside = "read"
        except Refused as no:
            told, aside = [no.detail], "refused"
        _put_aside(file, folder / aside, told)
        out.append(f"{file.name}: {' '.join(told)}")
    return out


def _put_aside(file: Path, folder: Path, told: list[str]) -> None:
    folder.mkdir(exist_ok=True)
    place, n = folder / file.name, 1
    while place.exists():
        n += 1
        place = folder / f"{file.stem} {n}{file.suffix}"
    file.rename(place)
    place.with_suffix(f"{place.suffix}.txt").write_text("\n".join(told) + "\n")

"""A copy of all data while it is in use, and putting one back. Both are checked before they count.

The copy is one SQLite file, made by the database's own online backup: everything acknowledged before it began is in it.
"""

import os
import sqlite3
from contextlib import closing
from pathlib import Path

from server.shared.words import sentence

NEEDED = ("django_migrations", "book_project", "book_page", "book_seal", "journal_step", "accounts_person")
"""Tables without which a file is no copy of ours."""


class BackupRefused(Exception):
    """Why a copy was not made or not put back, in words."""


def back_up(current: Path, to: Path) -> int:
    """Copy the data to a new file; gives how many projects it holds. Raises BackupRefused; a file that is there is never written over."""
    beside = to.with_name(f"{to.name}.part")
    try:
        if to.exists():
            raise BackupRefused(sentence("backup.there_already", file=to))
        beside.unlink(missing_ok=True)
        os.close(os.open(beside, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600))
        with closing(sqlite3.connect(f"file:{current}?mode=ro", uri=True, timeout=30)) as source, closing(sqlite3.connect(beside)) as copy:
            source.backup(copy)
            copy.execute("PRAGMA journal_mode=DELETE")
        projects = checked(beside)
        os.link(beside, to)  # fails where somebody else made the file meanwhile
    except (OSError, sqlite3.Error) as error:
        raise BackupRefused(sentence("backup.not_written", file=to, why=error)) from None
    finally:
        if beside.parent.is_dir():
            beside.unlink(missing_ok=True)
    return projects


def checked(file: Path) -> int:
    """How many projects a copy holds. Raises BackupRefused where it is damaged or is no copy of ours."""
    if not file.is_file():
        raise BackupRefused(sentence("backup.no_file", file=file))
    try:
        with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as copy:
            names = {name for (name,) in copy.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            if not names.issuperset(NEEDED):
                raise BackupRefused(sentence("backup.not_ours", file=file))
            [(verdict,), *_] = copy.execute("PRAGMA integrity_check")
            if verdict != "ok" or copy.execute("PRAGMA foreign_key_check").fetchone() is not None:
                raise BackupRefused(sentence("backup.damaged", file=file))
            projects: int = copy.execute("SELECT count(*) FROM book_project").fetchone()[0]
            return projects
    except sqlite3.Error:
        raise BackupRefused(sentence("backup.not_ours", file=file)) from None


def put_back(copy: Path, current: Path) -> int:
    """Put a copy, which is brought up to date already, in the place of the live data, in one transaction; gives its projects.

    Each project counts on from where it stands in either, so that nothing that a running process remembers of it is taken for new.
    """
    projects = checked(copy)
    try:
        with closing(sqlite3.connect(current, timeout=30)) as target:
            known = dict(target.execute("SELECT uid, revision FROM book_project").fetchall())
            with closing(sqlite3.connect(copy)) as source:
                for uid, revision in source.execute("SELECT uid, revision FROM book_project").fetchall():
                    source.execute("UPDATE book_project SET revision = ? WHERE uid = ?", (max(revision, known.get(uid, 0)) + 1, uid))
                source.commit()
                source.backup(target)
    except sqlite3.Error as error:
        raise BackupRefused(sentence("backup.not_restored", why=error)) from None
    checked(current)
    return projects

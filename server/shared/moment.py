"""Reading many rows as of one moment, without keeping anybody from writing."""

from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection


@contextmanager
def one_moment() -> Iterator[None]:
    """What is read inside is as it was when it began, whoever writes meanwhile. Nothing is written inside."""
    connection.ensure_connection()
    if connection.connection.in_transaction:  # of a step, or of a reading around this one
        yield
        return
    with connection.cursor() as cursor:
        cursor.execute("BEGIN")
    try:
        yield
    finally:
        with connection.cursor() as cursor:
            cursor.execute("COMMIT")

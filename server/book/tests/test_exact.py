"""Numbers inside JSON columns: kept and given as they were said, and sealed the same whichever way they came."""

from decimal import Decimal
from typing import Any

from django.db import connection
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from core.tests.random_books import random_book
from server.book.loading import load_document
from server.book.models import Project
from server.book.rows import clean, untouched, written_number
from server.book.sealing import canonical
from server.book.verify import verify
from server.exchange.writing import as_json
from server.shared import exact_json
from server.shared.json_values import floats

DECIMALS = st.decimals(-(10**12), 10**12, allow_nan=False, allow_infinity=False)
TEXTS = st.text(st.characters(codec="utf-8"), max_size=8)
PLAIN = st.recursive(
    st.none() | st.booleans() | st.integers(-(2**70), 2**70) | DECIMALS | TEXTS,
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(TEXTS, inner, max_size=3),
    max_leaves=8,
)


class Exact(TestCase):
    @given(PLAIN)
    def test_what_is_written_is_read_again(self, value: Any) -> None:
        again = exact_json.decode(exact_json.encode(value))
        self.assertEqual(again, value)
        self.assertEqual(exact_json.encode(again), exact_json.encode(value))
        self.assertEqual(exact_json.decode(exact_json.indented(value, 1)), value)

    @settings(max_examples=30)
    @given(st.dictionaries(TEXTS.map(lambda k: f"x-{k}"), PLAIN, max_size=3))
    def test_a_column_keeps_it(self, extra: dict[str, Any]) -> None:
        Project.objects.filter(code="P").delete()
        pk = Project.objects.create(code="P", name="P", currency="EUR", start="2027-01-04T08:00", calendar="c", extra=extra).pk
        self.assertEqual(exact_json.encode(Project.objects.get(pk=pk).extra), exact_json.encode(extra))

    @given(PLAIN)
    def test_a_seal_is_the_same_for_exact_numbers_and_plain_ones(self, value: Any) -> None:
        """What an earlier version kept as the nearest binary fraction is sealed as it was."""
        doubles = floats(value)
        self.assertEqual(canonical(floats(exact_json.decode(exact_json.encode(doubles)))), canonical(doubles))

    def test_a_whole_number_beyond_doubles_closes_a_page(self) -> None:
        """Beside a text that looks like an exponent it was no number that a seal could hold."""
        document = random_book(3, 5)
        document["x-big"] = 2**53 + 1
        document["activities"][0]["name"] = "Step 1e5"
        project = load_document(document, "BIG")
        self.assertEqual(verify(project).wrong, [])
        self.assertIn(b'"x-big": 9007199254740993', as_json(project))

    def test_written_by_hand(self) -> None:
        digits = Decimal("0.12345678901234567891")
        self.assertEqual(exact_json.encode([digits, Decimal("1.50"), Decimal("1E+3"), 7]), b"[0.12345678901234567891,1.50,1E+3,7]")
        self.assertEqual((written_number(digits, True), written_number(digits, False)), (digits, 0.12345678901234568))
        self.assertEqual([written_number(Decimal(x), True) for x in ("2.0", "2.50")], [2, Decimal("2.5")])
        self.assertEqual(clean({"a": Decimal("2.0"), "b": "", "x-c": Decimal("2.0")}, exact=True), {"a": 2, "x-c": Decimal("2.0")})
        self.assertEqual((untouched([digits], True), untouched([digits], False)), ([digits], [0.12345678901234568]))

    def test_half_a_character_of_old_is_still_read(self) -> None:
        """Before such were refused, one could be written as an escape that no reader of today takes."""
        pk = Project.objects.create(code="P", name="P", currency="EUR", start="2027-01-04T08:00", calendar="c").pk
        with connection.cursor() as cursor:
            cursor.execute("UPDATE book_project SET extra = %s WHERE id = %s", ['{"x-old": "\\ud800", "x-n": 0.10}', pk])
        self.assertEqual(Project.objects.get(pk=pk).extra, {"x-old": "\ud800", "x-n": Decimal("0.10")})

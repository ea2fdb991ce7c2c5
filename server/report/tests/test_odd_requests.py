"""Odd requests to the report and value rooms: each is refused in words, none ends in an error of ours, nothing is written."""

import json
from itertools import product
from typing import Any

from server.journal.models import Step
from server.report.models import Delivery, Draft, Edition, Recipient, ReviewEvent
from server.tests.base import LedgerTest

ODD: tuple[Any, ...] = (None, [], -1, 1e400, "x" * 5000, "\x00", "../..", True, [None], {"a": {"b": []}}, "🛶")
FORMS: dict[str, tuple[str, dict[str, Any]]] = {
    "pages/now/report": ("put", {"status": "watch", "reason": "r", "words": "w", "texts": {}, "heads": {}}),
    "pages/now/report/layout": ("put", {"sections": ["money"], "heads": [], "levels": 1}),
    "pages/now/report/review": ("post", {"do": "comment", "section": "money", "text": "t", "about": None}),
    "pages/now/report/editions/1/send": ("post", {"to": [1], "again": False}),
    "pages/now/timeline/print": (
        "post",
        {"form": "svg", "rows": [{"kind": "group", "name": "g"}], "columns": [], "dates": "", "per_day": 8},
    ),
    "pages/now/progress-lines": ("put", {"dates": "15 jan"}),
    "pages/now/selection": ("post", {"activities": ["A110"], "columns": ["ev"], "baselines": []}),
    "distribution": ("post", {"name": "N", "email": "n@tarnquay.example"}),
}
ADDRESSES = (
    *(
        "value?columns=%00",
        "value.xlsx?bucket=luck",
        "value.csv?columns=" + "ev," * 400,
        "curve?baselines=%F0%9F%9B%B6",
        "curve?wbs=..%2F..",
    ),
    *(
        "trend.pdf",
        "compared.csv",
        "compared.csv?with=P99",
        "working?measure=period.&kind=risk&code=R1",
        "working?measure=exposure&kind=risk",
    ),
    *(
        "report/editions/999999.xlsx",
        "report/editions/1/compared?other=",
        "report/editions/1/compared?other=P01/x",
        "timeline?baselines=,,",
    ),
    *(
        "progress-lines?most=%C2%B2",
        "progress-lines?at=kept&most=0",
        "progress-lines?at=dates&dates=%00",
        "statistics.xlsx?x=1",
        "work.xlsx?bucket=day",
    ),
)


class OddRequests(LedgerTest):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in("lorcan")

    def state(self) -> tuple[int, ...]:
        return tuple(model.objects.count() for model in (Step, Draft, Edition, Recipient, ReviewEvent, Delivery))

    def sent(self, path: str, method: str, body: Any) -> int:
        text = json.dumps(body)
        answer = getattr(self.client, method)(f"/api/projects/FERRY/{path}", text, content_type="application/json")
        self.assertLess(answer.status_code, 500, (path, text[:200], answer.content[:300]))
        if answer.status_code >= 400:
            self.assertTrue(json.loads(answer.content)["detail"], path)
        return int(answer.status_code)

    def test_a_value_of_another_kind_in_every_field(self) -> None:
        for path, (method, form) in FORMS.items():
            for key, value in product(form, ODD):
                before = self.state()
                code = self.sent(path, method, form | {key: value, "revision": self.revision()})
                if code >= 400:
                    self.assertEqual(self.state(), before, (path, key, value))

    def test_bodies_that_are_no_form(self) -> None:
        for path, (method, _) in FORMS.items():
            for body in ODD:
                before = self.state()
                nothing_asked = path.endswith("selection") and isinstance(body, dict)
                self.assertEqual(self.sent(path, method, body) >= 400, not nothing_asked, (path, body))
                self.assertEqual(self.state(), before)

    def test_addresses(self) -> None:
        for path in ADDRESSES:
            answer = self.client.get(f"/api/projects/FERRY/pages/P02/{path}")
            self.assertLess(answer.status_code, 500, (path, answer.content[:300]))

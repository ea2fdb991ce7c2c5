"""What an entry pays is typed by the codes of orders and costs, stays when the entry is changed, and is refused in words."""

from typing import Any

from server.tests.base import LedgerTest


class Paying(LedgerTest):
    pages = 9

    def post(self, status: int = 200, **cells: str) -> Any:
        body = {"revision": self.revision(), "entries": [cells], "remove": []}
        return self.call("patch", "projects/FERRY/pages/now/posting/costs", body, status)

    def row(self, sheet: Any) -> Any:
        return sheet["rows"][-1]

    def test_an_invoice_picks_its_order(self) -> None:
        made = self.row(self.post(on="A510", amount="21500", pays="po-04 d33")["sheet"])
        self.assertEqual(made["pays"], "PO-04 D33")
        changed = self.row(self.post(id=made["id"], amount="20000")["sheet"])
        self.assertEqual((changed["amount"], changed["pays"]), ("20000.00", "PO-04 D33"))
        money = self.call("get", "projects/FERRY/pages/now/money")
        self.assertEqual(next(o["invoiced"] for o in money["orders"] if o["code"] == "PO-04"), "20000.00")

    def test_what_it_can_not_pay_is_refused_beside_it(self) -> None:
        for pays in ("PO-99", "PO-04 PO-05"):
            self.assertEqual(self.post(422, on="A510", amount="1", pays=pays)["field"], "pays")
        wrong = self.post(422, on="A510", amount="1", pays="D18")
        self.assertIn("no cost of A510", wrong["detail"])
        self.assertEqual(self.row(self.post(on="A510", amount="1", pays="-")["sheet"])["pays"], "-")

    def test_what_fits_its_order_or_its_amount_is_proposed(self) -> None:
        order = next(o for o in self.call("get", "projects/FERRY/pages/now/money")["orders"] if o["code"] == "PO-04")
        whole = self.row(self.post(on="A510", amount=order["left"])["sheet"])
        self.assertEqual((whole["pays"], whole["proposed"], whole["may_pay"][0]), ("", "PO-04 D33", "PO-04 D33"))
        odd = self.row(self.post(on="A510", amount="1.23")["sheet"])
        self.assertEqual((odd["proposed"], odd["may_pay"]), ("", ["PO-04 D33", "D33", "A510/FIT"]))
        self.assertEqual(self.row(self.post(id=whole["id"], pays=whole["proposed"])["sheet"])["proposed"], "")

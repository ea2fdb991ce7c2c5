import assert from "node:assert/strict";
import { afterEach, test } from "vitest";
import { words as common } from "../src/shared/words";
import type { Catalogue } from "../src/shared/words/catalogue";
import { plural, say, speak } from "../src/shared/words/named";
import { words as plan } from "../src/shared/words/plan";
import { words as value } from "../src/shared/words/value";

afterEach(() => speak({}));

test("a count takes the form that its language has for it", () => {
  const forms = { one: "row", other: "rows" };
  assert.deepEqual(
    [0, 1, 2, 21].map((n) => plural(n, forms)),
    ["rows", "row", "rows", "rows"],
  );
  assert.equal(plural(1, { other: "rows" }), "rows");
  assert.equal(plan.plan.paste.title(1), "Paste 1 row");
  assert.equal(plan.plan.paste.title(40), "Paste 40 rows");
  assert.equal(value.value.selected(1), "Selection, 1 activity");
});

test("catalogues that are loaded after a language was chosen say its words, and English where it has none", () => {
  const own: Pick<Catalogue, "signIn"> = { signIn: { ...common.signIn, title: "Anmelden" } };
  speak(own);
  const spoken = say({ signIn: common.signIn, product: common.product });
  assert.equal(spoken.signIn.title, "Anmelden");
  assert.equal(spoken.signIn.expired("Ada"), common.signIn.expired("Ada"));
  assert.equal(spoken.product, "Dry Ledger");
  assert.equal(common.signIn.title, "Sign in");
});

test("a room's words have those that all rooms say", () => {
  for (const room of [plan, value]) assert.equal(room.product, common.product);
});

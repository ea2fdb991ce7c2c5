import assert from "node:assert/strict";
import { afterEach, test } from "vitest";
import { format, numberOf, setFormats } from "../src/shared";
import { asTyped, BOOK, told } from "../src/shared/formats";
import { dateOf, lengthOf, minutesOf } from "../src/shared/look";
import { axisOf } from "../src/shared/time";

const COMMA = { ...BOOK, decimal: "," };
const MONTH = { ...BOOK, month_first: true };

afterEach(() => setFormats(BOOK));

test("numbers have one's own sign before decimals, thousands a space between", () => {
  setFormats(COMMA);
  assert.equal(format.money("-1234567.50"), "\u22121\u00a0234\u00a0567,50");
  assert.equal(format.money("1250.00", true), "1\u00a0250");
  assert.deepEqual([format.ratio(0.9), format.percent(37.25), format.tenth(-2.5)], ["0,900", "37,3", "\u22122,5"]);
  assert.deepEqual([format.late(2.5), format.drift(-1.5), format.span("1.5w")], ["2,5 d late", "\u22121,5 d", "1,5 w"]);
  assert.equal(format.figure("12.5", "percent"), "12,5 %");
});

test("what the book has is typed on from as one writes it; names and codes stay", () => {
  setFormats(COMMA);
  const kept = ["2.5", "-1250.50", "1.5d", "37.5 %", "A1.2", "1.2.3", "12 mar", ""];
  assert.deepEqual(kept.map(asTyped), ["2,5", "-1250,50", "1,5d", "37,5 %", "A1.2", "1.2.3", "12 mar", ""]);
});

test("numbers and lengths in conditions are read as one writes them", () => {
  assert.deepEqual(["1,250.5", "2,5", "1 250"].map(numberOf), [1250.5, 2.5, 1250]);
  setFormats(COMMA);
  assert.deepEqual(["1.250,5", "2,5", "2.5", "31.000", "-0,5"].map(numberOf), [1250.5, 2.5, 2.5, 31000, -0.5]);
  assert.equal(lengthOf("1,5d", { day: 480 }), 720);
  assert.equal(minutesOf("1.125d", 480), 540);
  assert.ok(Number.isNaN(numberOf("")));
});

test("dates have the day or the month first, where they are shown and where they are typed", () => {
  assert.equal(dateOf("3/12", "2027-03-01"), "2026-12-03");
  setFormats(MONTH);
  assert.deepEqual(
    [format.day("2027-03-12"), format.date("2027-03-12"), format.fullDay("2027-03-12"), format.weekDay("2027-03-12")],
    ["Mar 12", "Mar 12, 2027", "March 12, 2027", "Fri Mar 12"],
  );
  const typed = ["3/12", "3/12/2027", "12.3.2027", "mar 12", "12 mar", "Mar 12, 2027", "2027-03-12"];
  assert.deepEqual(new Set(typed.map((t) => dateOf(t, "2027-03-01"))), new Set(["2027-03-12"]));
});

test("the weeks of a timeline begin on one's own first day", () => {
  const first = () => axisOf("2027-03-10T08:00", "2027-06-10T17:00", "week").ticks.find((t) => t.label)?.label;
  assert.equal(first(), "1 Mar");
  setFormats({ ...MONTH, first_day: "sun" });
  assert.equal(first(), "Mar 7");
});

test("a request says in which formats its texts were typed", () => {
  assert.equal(told({ decimal: ",", month_first: true, first_day: "sat" }), "comma month sat");
  assert.equal(told(BOOK), "point day mon");
});

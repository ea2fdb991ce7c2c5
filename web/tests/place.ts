import type { Schemas } from "../src/api";

export const PAGE: Schemas["PageOut"] = {
  code: "P03",
  number: 3,
  status: "2027-01-22T17:00",
  state: "wet",
  mark: "on_plan",
  mark_word: "on plan",
  calculation: 3,
  due: false,
};
export const FRAME: Schemas["FrameOut"] = {
  code: "FERRY",
  name: "Ferry refit",
  currency: "EUR",
  role: "analyst",
  revision: 7,
  outside: "",
  baseline: "B0",
  baseline_name: "First",
  treatment: "retained",
  calculation: 3,
  pages: [PAGE],
};
const FORMATS = { decimal: ".", month_first: false, first_day: "mon" };
export const ADA = {
  username: "ada",
  full_name: "Ada Marsh",
  role: "analyst",
  formats: FORMATS,
} as Schemas["PersonOut"];

import type { Schemas } from "../../api";

/** A row of the sheet, whole; `pending` while it is still being made. */
export type Row = Required<Schemas["PlanRow"]> & { pending?: boolean };
/** One thing to do to the plan, see docs/formats/changes.md. */
export type Verb = Schemas["Verbs"]["verbs"][number];

export const USUAL: Omit<Row, "id" | "order" | "code" | "name" | "kind"> = {
  parent: null,
  start: null,
  finish: null,
  cost: "0",
  weight: 1,
  duration: "",
  span: "",
  calendar: "",
  after: "",
  people: "",
  direct_cost: null,
  constraint: "",
  deadline: null,
  total_float: null,
  free_float: null,
  late: null,
  state: "not_started",
  percent: 0,
  mark: "not_due",
  critical: false,
  driving: false,
  driver: "duration",
  mode: "driven",
  method: "percent",
  profile: "uniform",
  odd: null,
  worked_to: null,
  resume: null,
  base_start: null,
  base_finish: null,
  float_to: null,
  links: [],
  pauses: [],
  fields: {},
  safe: "",
  levelled: null,
  responsible: "",
  answers: "",
  note: "",
};

/** A row as sent leaves out what is as it mostly is. */
export const whole = (row: Schemas["PlanRow"]): Row => ({ ...USUAL, ...row });

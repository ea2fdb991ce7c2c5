import type { Schemas } from "../../../api";
import { asTyped, format } from "../../../shared";
import { type ListColumn, ListSheet } from "../../../shared/sheet";
import { words } from "../../../shared/words/resources";
import { type Keeper, useWholeList } from "../useWholeList";

export type Rate = Schemas["Rate"];
const w = words.resources;
const PERS = ["hour", "started_hour", "day", "week", "month", "use", "unit"].map((p): [string, string] => [
  p,
  format.choice(p),
]);
const show = ({ from, amount, per, overtime = "" }: Rate) => ({
  from,
  amount: asTyped(amount),
  per,
  overtime: asTyped(overtime),
});
const make = ({ from = "", amount = "", per = "hour", overtime }: Record<string, string>): Rate => ({
  from,
  amount,
  per,
  ...(overtime ? { overtime } : {}),
});
const BEGIN = { start: { per: "hour" }, needs: ["from", "amount"] };

interface Props {
  rates: Rate[];
  plan: Keeper;
  open: boolean;
  currency: string;
  /** Of which resource. */
  id: string;
  name: string;
}

/** The rates of a resource, each in force from its date until the next of its kind. */
export function Rates({ rates, plan, open, currency, id, name }: Props) {
  const list = useWholeList<Rate>({ id, field: "rates", list: rates, plan, show, make, begin: BEGIN });
  const columns: ListColumn[] = [
    {
      key: "from",
      title: w.since,
      width: 150,
      left: true,
      needed: true,
      hint: w.sinceHint,
      text: (r) => format.spokenDay(r.cells.from),
    },
    { key: "amount", title: w.amount(currency), width: 120, needed: true, hint: "0.00" },
    { key: "per", title: w.per, width: 130, left: true, options: PERS, needed: true },
    { key: "overtime", title: w.overtime, width: 120 },
  ];
  return <ListSheet {...list.sheet} label={w.ratesOf(name)} columns={columns} open={open} name="from" />;
}

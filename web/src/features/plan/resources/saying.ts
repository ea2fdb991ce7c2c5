import type { Schemas } from "../../../api";
import { format } from "../../../shared";
import { words } from "../../../shared/words/resources";

const w = words.resources;

/** Who is asked for more than there is by what was assigned. */
export const sayOver = (over: Schemas["OverMore"][]) =>
  over
    .slice(0, 3)
    .map((x) => w.overNow(x.name, format.hours(x.more_hours), format.hours(x.hours)))
    .join(" ");

type Remedy = Schemas["RemedyOut"];

/** What a way to put an over-allocation right does. */
export function sayRemedy(x: Remedy): string {
  const what = `${x.activity} ${x.activity_name}`;
  if (x.kind === "other") return w.remedy.other(what, x.other_name);
  if (x.kind === "later") return w.remedy.later(what, format.fullDay(x.to));
  if (x.kind === "units") return w.remedy.units(format.percent(x.units));
  return x.mode === "within_float" ? w.remedy.within : w.remedy.beyond;
}

/** What comes of it: the finish, the cost, and what stays over-allocated. */
export function sayOutcome(x: Remedy): string {
  const parts = [x.later_days > 0 ? w.remedy.finish(x.later_days) : w.remedy.noDay];
  if (x.kind === "later" && x.own_later_days > 0) parts.unshift(w.remedy.own(x.own_later_days));
  if (Number(x.cost)) parts.push(`${Number(x.cost) > 0 ? "+" : ""}${format.money(x.cost)}`);
  if (x.left_hours > 0) parts.push(w.remedy.left(format.hours(x.left_hours)));
  return parts.join(", ");
}

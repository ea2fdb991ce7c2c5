import type { Condition, Ground } from "../../shared/look";

export { type Condition, dateOf } from "../../shared/look";

/** The conditions of a lens that say something; views kept before there were any have none. */
export const conditionsOf = (lens: { where?: Condition[] }) => (lens.where ?? []).filter((c) => c.text.trim());

/** What conditions are read against here. */
export const groundOf = (info: { start: string; status: string; hours_per_day: number }): Ground => ({
  near: (info.status || info.start).slice(0, 10),
  day: info.hours_per_day * 60,
});

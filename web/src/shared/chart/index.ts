// Charts: labelled at their ends, with a table of the same figures beside them. The drawing is fetched when it is first shown.
export { AmountCurve, Curve } from "./Curve";
export { LoadChart, LoadTable } from "./LoadChart";
export type { CurveLine, Spot } from "./SCurve";
export { SmallLines } from "./SmallLines";
export { when } from "./when";

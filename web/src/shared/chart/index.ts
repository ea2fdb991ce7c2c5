// Charts: labelled at their ends, with a table of the same figures beside them. The drawing is fetched when it is first shown.
export { Curve } from "./Curve";
export { LoadChart } from "./LoadChart";
export { SmallLines } from "./SmallLines";

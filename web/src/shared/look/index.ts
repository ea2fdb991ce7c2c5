// How a sheet of figures is looked at: which figures of the catalogue it shows, what is filtered, sorted and grouped.
export * from "./arrange";
export { Conditions } from "./Conditions";
export * from "./conditions";
export { FigureMenu } from "./FigureMenu";
export { LookBar, LookParts, useGround } from "./LookBar";
export { useFigures, useOffered } from "./useFigures";

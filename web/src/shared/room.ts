import type { ComponentType } from "react";
import type { Told } from "./place";

/** What the margin says of one kind of topic, fetched when it is first asked for. */
export type MarginParts = {
  [A in Told["about"]]?: () => Promise<{ default: ComponentType<{ topic: Extract<Told, { about: A }> }> }>;
};

/** A room of the application as its manifest says it: where it lies, what it is called, and its screens, each fetched when gone to. */
export interface Room {
  path: string;
  word: string;
  /** Its screens by the path below its own; the first is its own. */
  screens: Record<string, () => Promise<{ Component: ComponentType }>>;
  /** The topics of which it tells in the margin. */
  margin?: MarginParts;
}

import type { ComponentType } from "react";

/** A room of the application as its manifest says it: where it lies, what it is called, and its screens, each fetched when gone to. */
export interface Room {
  path: string;
  word: string;
  /** Its screens by the path below its own; the first is its own. */
  screens: Record<string, () => Promise<{ Component: ComponentType }>>;
}

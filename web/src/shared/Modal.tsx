import { lazy, Suspense } from "react";
import type { DialogueProps } from "./Dialogue";

const Dialogue = lazy(() => import("./Dialogue").then((m) => ({ default: m.Dialogue })));

/** A dialog over the room; what draws it is fetched when one is first opened. */
export const Modal = (props: DialogueProps) => (
  <Suspense>
    <Dialogue {...props} />
  </Suspense>
);

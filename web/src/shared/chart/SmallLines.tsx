import { lazy, Suspense } from "react";
import type { Point } from "./SmallDrawing";

const Drawing = lazy(() => import("./SmallDrawing").then((m) => ({ default: m.SmallDrawing })));

interface Props {
  title: string;
  points: Point[];
  series: { key: string; name: string; ink: string }[];
  /** Where everything is as planned. */
  level?: number;
}

/** A small chart of a few lines over the pages; the figures stand in the table beside it. */
export const SmallLines = (props: Props) => (
  <Suspense fallback={null}>
    <Drawing {...props} />
  </Suspense>
);

import { type ComponentProps, lazy, Suspense } from "react";
import { Notice } from "../Notice";
import { words } from "../words";

const Drawing = lazy(() => import("./CurveDrawing").then((m) => ({ default: m.CurveDrawing })));
const Amounts = lazy(() => import("./SCurve").then((m) => ({ default: m.SCurve })));
const waits = <Notice>{words.frame.loading}</Notice>;

/** The curve of a page; its drawing code is fetched when first needed. */
export const Curve = (props: ComponentProps<typeof Drawing>) => (
  <Suspense fallback={waits}>
    <Drawing {...props} />
  </Suspense>
);

/** The same of any amounts over time. */
export const AmountCurve = (props: ComponentProps<typeof Amounts>) => (
  <Suspense fallback={waits}>
    <Amounts {...props} />
  </Suspense>
);

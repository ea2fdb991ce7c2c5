import { lazy, Suspense } from "react";
import type { Schemas } from "../../api";
import { Notice } from "../Notice";
import { words } from "../words";

const Drawing = lazy(() => import("./CurveDrawing").then((m) => ({ default: m.CurveDrawing })));

interface Props {
  curve: Schemas["CurveOut"];
  height?: number;
  estimates?: string[];
  bars?: boolean;
}

/** The S-curve; its drawing code is fetched when first needed. */
export function Curve({ curve, height = 250, estimates, bars }: Props) {
  return (
    <Suspense fallback={<Notice>{words.frame.loading}</Notice>}>
      <Drawing curve={curve} height={height} estimates={estimates} bars={bars} />
    </Suspense>
  );
}

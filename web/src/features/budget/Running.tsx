import { useMemo } from "react";
import type { Schemas } from "../../api";
import { AmountCurve, type Spot, when } from "../../shared";
import { words } from "../../shared/words/budget";

/** The cumulative budget under its table. The table above says the same in figures. */
export function Running({ phased, currency }: { phased: Schemas["PhasedOut"]; currency: string }) {
  const lines = useMemo(() => {
    const spots = phased.running.map((c, i): Spot => [when(phased.ends[i] ?? ""), Number(c)]);
    return [{ key: "budget", name: words.budget.line, spots, ink: "pv" }];
  }, [phased]);
  return <AmountCurve label={words.budget.curve(currency)} height={190} lines={lines} />;
}

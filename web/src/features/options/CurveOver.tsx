import { useMemo } from "react";
import { AmountCurve, type CurveLine, format, type Spot, when } from "../../shared";
import { DataTable } from "../../shared/ui";
import { words } from "../../shared/words/options";
import { DASHES, type Laid } from "./Overlay";

const w = words.options;

const spotsOf = (points: (string | null)[][]) =>
  points.flatMap(([end, value]): Spot[] => (end && value != null ? [[when(end), Number(value)]] : []));

/** Cost spent and forecast of the present and of each option over the planned value; a table beside it says the same. */
export function CurveOver({ over, named }: { over: Laid; named: (id: number | null | undefined) => string }) {
  const lines = useMemo(() => {
    const laid = over.laid.map((l, n): CurveLine => {
      const own = n ? { ink: "ink", weight: 1.6, dash: DASHES[(n - 1) % DASHES.length] } : { ink: "ac", weight: 3 };
      return { key: String(l.option ?? "present"), name: named(l.option), spots: spotsOf(l.points), ...own };
    });
    return [{ key: "planned", name: w.planned, spots: spotsOf(over.planned), ink: "pv", weight: 1.4 }, ...laid];
  }, [over, named]);
  if (lines.every((l) => l.spots.length === 0)) return null;
  return (
    <>
      <AmountCurve
        label={w.curveLabel}
        height={260}
        lines={lines}
        status={over.status ? when(over.status) : undefined}
      />
      <DataTable
        maxW="520px"
        rows={over.laid}
        keyOf={(l) => l.option ?? "present"}
        columns={[
          { title: w.columns.option, cell: (l) => (l.option == null ? w.present : `${named(l.option)} ${l.name}`) },
          { title: w.columns.finish, cell: (l) => format.date(l.finish) },
          {
            title: w.columns.eac,
            kind: "num",
            cell: (_, i) => format.money(String(lines[i + 1]?.spots.at(-1)?.[1] ?? ""), true),
          },
        ]}
      />
    </>
  );
}

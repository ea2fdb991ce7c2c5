import { useMemo } from "react";
import { AmountCurve, type CurveLine, format, type Spot, when } from "../../shared";
import { Table } from "../../shared/ui";
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
      <Table maxW="520px">
        <thead>
          <tr>
            <th>{w.columns.option}</th>
            <th>{w.columns.finish}</th>
            <th data-num="">{w.columns.eac}</th>
          </tr>
        </thead>
        <tbody>
          {over.laid.map((l, i) => (
            <tr key={l.option ?? "present"}>
              <td>{l.option == null ? w.present : `${named(l.option)} ${l.name}`}</td>
              <td>{format.date(l.finish)}</td>
              <td data-num="">{format.money(String(lines[i + 1]?.spots.at(-1)?.[1] ?? ""), true)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}

import { format } from "../../shared";
import { Table } from "../../shared/ui";
import { words } from "../../shared/words/options";
import { DASHES, type Laid } from "./Overlay";

const w = words.options;
const ink = (name: string) => `var(--chakra-colors-${name})`;
const HEIGHT = 260;
const PAD = { left: 64, right: 130, top: 12, bottom: 24 };
type Point = [string, number];

/** Cost spent and forecast of the present and of each option over the planned value; a table beside it says the same. */
export function CurveOver({
  over,
  width,
  named,
}: {
  over: Laid;
  width: number;
  named: (id: number | null | undefined) => string;
}) {
  const read = (points: (string | null)[][]) =>
    points.flatMap(([end, value]): Point[] => (end && value != null ? [[end, Number(value)]] : []));
  const lines = over.laid.map((l, n) => ({ name: named(l.option), points: read(l.points), n }));
  const planned = read(over.planned);
  const all = [...planned, ...lines.flatMap((l) => l.points)];
  if (all.length === 0) return null;
  const days = (iso: string) => Date.parse(`${iso.slice(0, 10)}T00:00:00Z`);
  const [from, to] = [Math.min(...all.map(([t]) => days(t))), Math.max(...all.map(([t]) => days(t)))];
  const step = stepOf(Math.max(...all.map(([, v]) => v), 1));
  const most = Math.ceil(Math.max(...all.map(([, v]) => v), 1) / step) * step;
  const x = (t: string) => PAD.left + ((days(t) - from) / Math.max(to - from, 1)) * (width - PAD.left - PAD.right);
  const y = (v: number) => HEIGHT - PAD.bottom - (v / most) * (HEIGHT - PAD.top - PAD.bottom);
  const path = (points: Point[]) =>
    points.map(([t, v], i) => `${i ? "L" : "M"}${x(t).toFixed(1)} ${y(v).toFixed(1)}`).join("");
  const ends = spread(
    [...lines.map((l) => ({ name: l.name, point: l.points.at(-1) })), { name: w.planned, point: planned.at(-1) }],
    y,
  );
  return (
    <>
      <svg width={width} height={HEIGHT} role="img" aria-label={w.curveLabel}>
        {Array.from({ length: Math.round(most / step) + 1 }, (_, n) => n * step).map((v) => (
          <g key={v}>
            <path d={`M${PAD.left} ${y(v)}H${width - PAD.right}`} stroke={ink("rule")} />
            <text x={PAD.left - 6} y={y(v) + 4} fontSize={10.5} fill={ink("soft")} textAnchor="end">
              {format.money(String(v), true)}
            </text>
          </g>
        ))}
        <path d={path(planned)} fill="none" stroke={ink("pv")} strokeWidth={1.4} />
        {lines.map((l) => (
          <path
            key={l.name}
            d={path(l.points)}
            fill="none"
            stroke={ink(l.n ? "ink" : "ac")}
            strokeWidth={l.n ? 1.6 : 3}
            strokeDasharray={l.n ? DASHES[(l.n - 1) % DASHES.length] : undefined}
          />
        ))}
        {over.status && (
          <path d={`M${x(over.status)} ${PAD.top}V${HEIGHT - PAD.bottom}`} stroke={ink("wet")} strokeWidth={2} />
        )}
        {ends.map((e) => (
          <text key={e.name} x={width - PAD.right + 6} y={e.y + 4} fontSize={11} fill={ink("ink")}>
            {e.name}
          </text>
        ))}
      </svg>
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
              <td data-num="">{format.money(String(lines[i]?.points.at(-1)?.[1] ?? ""), true)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}

/** A round step that gives a chart up to the value three to six lines. */
function stepOf(most: number): number {
  const ten = 10 ** Math.floor(Math.log10(most / 3));
  return ([1, 2, 5, 10].find((n) => most / (n * ten) <= 6) ?? 10) * ten;
}

const APART = 13;

/** Names at the ends of lines, far enough apart to be read. */
function spread(ends: { name: string; point?: Point }[], y: (v: number) => number) {
  const placed = ends.flatMap((e) => (e.point ? [{ name: e.name, y: y(e.point[1]) }] : [])).sort((a, b) => a.y - b.y);
  for (let i = 1; i < placed.length; i++) {
    const [a, b] = [placed[i - 1], placed[i]];
    if (a && b && b.y - a.y < APART) b.y = a.y + APART;
  }
  return placed;
}

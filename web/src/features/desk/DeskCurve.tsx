import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { Bones, format, keys, Notice, useAddressed } from "../../shared";
import { ScrollBox, Select, Soft, Table } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import type { Project } from "./useDeskLook";

const w = words.desk;
const LINES = ["pv", "ev", "ac", "forecast"] as const;
const WIDTH = 1100;
const HEIGHT = 330;
const PAD = { left: 74, right: 130, top: 14, bottom: 30 };
const ink = (name: string) => `var(--chakra-colors-${name})`;
const when = (iso: string) => Date.parse(`${iso}:00Z`);

/** The cumulative cost of the projects shown, of one currency. */
export function DeskCurve({ projects }: { projects: Project[] }) {
  const [{ money: currency }, choose] = useAddressed("desk/curve", { money: "" });
  const codes = projects.map((p) => p.code);
  const curve = useQuery({
    queryKey: keys.desk.curve(currency, codes),
    queryFn: () => take(client.GET("/api/desk/curve", { params: { query: { currency, codes } } })),
    enabled: codes.length > 0,
  });
  if (codes.length === 0) return <Notice>{w.nothingShown}</Notice>;
  if (curve.isPending) return <Bones />;
  if (!curve.data) return <Notice bad>{curve.error?.message}</Notice>;
  const c = curve.data;
  return (
    <>
      <Box display="flex" gap="10px" alignItems="center" mb="6px">
        <Soft flex="1">
          {w.curveOf(c.projects.length, c.currency, format.fullDay(c.status), format.fullDay(c.latest))}
          {c.left_out.length > 0 && ` ${w.leftOut(c.left_out.join("; "))}`}
        </Soft>
        {c.currencies.length > 1 && (
          <Select aria-label={w.currency} value={c.currency} onChange={(e) => choose({ money: e.target.value })}>
            {c.currencies.map((x) => (
              <option key={x}>{x}</option>
            ))}
          </Select>
        )}
      </Box>
      {c.points.length > 1 && <Drawing curve={c} />}
      <ScrollBox maxH="300px" tabIndex={0} role="region" aria-label={w.curveTable}>
        <Table aria-label={w.curveTable}>
          <thead>
            <tr>
              <th>{w.weekTo}</th>
              {LINES.map((key) => (
                <th key={key} data-num="">
                  {w[key]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {c.points.map((p) => (
              <tr key={p.end}>
                <td data-date="">{format.date(p.end)}</td>
                {LINES.map((key) => (
                  <td key={key} data-num="">
                    {p[key] === null ? "–" : format.money(p[key])}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </ScrollBox>
    </>
  );
}

function Drawing({ curve }: { curve: Schemas["DeskCurve"] }) {
  const points = curve.points;
  const first = when(points[0]?.end ?? "");
  const last = when(points.at(-1)?.end ?? "");
  const top = Math.max(1, ...points.flatMap((p) => [Number(p.pv), Number(p.forecast ?? 0), Number(p.ac ?? 0)]));
  const x = (t: number) => PAD.left + ((t - first) / Math.max(last - first, 1)) * (WIDTH - PAD.left - PAD.right);
  const y = (amount: number) => HEIGHT - PAD.bottom - (amount / top) * (HEIGHT - PAD.top - PAD.bottom);
  const drawn = LINES.map((key) => {
    const own = points.filter((p) => p[key] !== null).map((p) => [x(when(p.end)), y(Number(p[key]))] as const);
    return { key, own, end: own.at(-1) };
  }).filter((line) => line.own.length > 0);
  const labels = drawn
    .map(({ key, end }) => ({ key, x: (end?.[0] ?? 0) + 6, y: end?.[1] ?? 0 }))
    .sort((a, b) => a.y - b.y);
  for (let i = 1; i < labels.length; i++) {
    const [above, own] = [labels[i - 1], labels[i]];
    if (above && own && Math.abs(above.x - own.x) < 80 && own.y < above.y + 15) own.y = above.y + 15;
  }
  const months = points.filter((p, i) => p.end.slice(0, 7) !== points[i - 1]?.end.slice(0, 7));
  const step = Math.ceil(months.length / 12);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width="100%" role="img" aria-label={w.curveLabel(curve.currency)}>
      {[0, 0.5, 1].map((h) => (
        <g key={h}>
          <path d={`M${PAD.left} ${y(top * h)}H${WIDTH - PAD.right}`} stroke={ink("rule")} />
          <text x={PAD.left - 8} y={y(top * h) + 4} textAnchor="end" fontSize="11" fill={ink("soft")}>
            {format.money(String(Math.round(top * h)), true)}
          </text>
        </g>
      ))}
      {months
        .filter((_, i) => i % step === 0)
        .map((p) => (
          <text key={p.end} x={x(when(p.end))} y={HEIGHT - 10} fontSize="11" fill={ink("soft")} textAnchor="middle">
            {format.day(p.end).split(" ")[1]}
          </text>
        ))}
      {curve.status && (
        <path d={`M${x(when(curve.status))} ${PAD.top}V${HEIGHT - PAD.bottom}`} stroke={ink("wet")} strokeWidth={1.5} />
      )}
      {drawn.map(({ key, own }) => (
        <polyline
          key={key}
          points={own.map((p) => p.join(",")).join(" ")}
          fill="none"
          stroke={ink(key === "forecast" ? "ink" : key)}
          strokeWidth={2}
          strokeDasharray={key === "forecast" ? "5 4" : undefined}
        />
      ))}
      {labels.map((l) => (
        <text
          key={l.key}
          x={l.x}
          y={l.y + 4}
          fontSize="12"
          fontWeight="600"
          fill={ink(l.key === "forecast" ? "ink" : l.key)}
        >
          {w[l.key]}
        </text>
      ))}
    </svg>
  );
}

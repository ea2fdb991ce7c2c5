import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { client, type Schemas, take } from "../../api";
import { AmountCurve, Bones, type CurveLine, format, keys, Notice, type Spot, useAddressed, when } from "../../shared";
import { ScrollBox, Select, Soft, Table } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import type { Project } from "./useDeskLook";

const w = words.desk;
const LINES = ["pv", "ev", "ac", "forecast"] as const;
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
      <Box display="flex" gap="10" alignItems="center" mb="6">
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
  const lines = useMemo(
    () =>
      LINES.map((key): CurveLine => {
        const spots = curve.points.flatMap((p): Spot[] => (p[key] === null ? [] : [[when(p.end), Number(p[key])]]));
        const forecast = key === "forecast";
        return { key, name: w[key], spots, ink: forecast ? "ink" : key, dash: forecast ? "5 4" : undefined };
      }).filter((line) => line.spots.length > 0),
    [curve],
  );
  const status = curve.status ? when(curve.status) : undefined;
  return <AmountCurve label={w.curveLabel(curve.currency)} height={330} lines={lines} status={status} />;
}

import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { client, type Schemas, take } from "../../api";
import { AmountCurve, Bones, type CurveLine, format, keys, Notice, type Spot, useAddressed, when } from "../../shared";
import { type DataColumn, DataTable, ScrollBox, Select, Soft } from "../../shared/ui";
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
        <DataTable
          aria-label={w.curveTable}
          rows={c.points}
          keyOf={(p) => p.end}
          columns={[
            { title: w.weekTo, kind: "date", cell: (p) => format.date(p.end) },
            ...LINES.map(
              (key): DataColumn<Schemas["DeskPoint"]> => ({
                title: w[key],
                kind: "num",
                cell: (p) => (p[key] === null ? "–" : format.money(p[key])),
              }),
            ),
          ]}
        />
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

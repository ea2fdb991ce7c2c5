import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { format, keys, Notice, usePlace } from "../../shared";
import { ChoiceLine, DataTable, Input, PartTitle, RowOf, Select, Soft } from "../../shared/ui";
import { words } from "../../shared/words/baseline";

const w = words.baselines;
const MOST = 1500;

/** The later − the earlier of any two baselines, or of one and the present. */
export function Differences({ baselines }: { baselines: Schemas["BaselineOut"][] }) {
  const { project } = usePlace();
  const [earlier, setEarlier] = useState(baselines.find((b) => b.measured)?.code ?? baselines[0]?.code ?? "");
  const [later, setLater] = useState("now");
  const [moved, setMoved] = useState(true);
  const found = useQuery({
    queryKey: keys.project(project).differences(earlier, later),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/baselines/differences", {
          params: { path: { project }, query: { earlier, later } },
        }),
      ),
    placeholderData: (before) => before,
  });
  const rows = (found.data?.rows ?? []).filter(
    (r) =>
      !moved ||
      r.kind === "project" ||
      r.change !== "both" ||
      r.start ||
      r.finish ||
      r.duration ||
      r.work ||
      Number(r.cost),
  );
  return (
    <>
      <PartTitle>{w.differences}</PartTitle>
      <RowOf>
        <Select aria-label={w.from} value={earlier} onChange={(e) => setEarlier(e.target.value)}>
          {baselines.map((b) => (
            <option key={b.code} value={b.code}>
              {b.code} {b.name}
            </option>
          ))}
        </Select>
        {w.against}
        <Select aria-label={w.to} value={later} onChange={(e) => setLater(e.target.value)}>
          <option value="now">{w.present}</option>
          {baselines.map((b) => (
            <option key={b.code} value={b.code}>
              {b.code} {b.name}
            </option>
          ))}
        </Select>
        <ChoiceLine>
          <Input type="checkbox" look="bare" checked={moved} onChange={(e) => setMoved(e.target.checked)} />
          {w.onlyMoved}
        </ChoiceLine>
      </RowOf>
      {found.isError && <Notice bad>{found.error.message}</Notice>}
      {found.data && (
        <DataTable
          caption={<Soft>{w.caption(format.fullDay(found.data.status))}</Soft>}
          rows={rows.slice(0, MOST)}
          keyOf={(r) => `${r.kind}${r.code}`}
          line={(r) => ({ "data-wbs": r.kind === "activity" ? undefined : "" })}
          columns={[
            {
              title: words.columns.activity,
              head: true,
              more: (r) => ({ style: { paddingLeft: 8 + r.level * 14 } }),
              cell: (r) => (
                <>
                  {r.kind === "project" ? w.project : `${r.code} ${r.name}`}
                  {r.change !== "both" && <Soft> {r.change}</Soft>}
                </>
              ),
            },
            { title: w.startOf(earlier), kind: "date", cell: (r) => format.day(r.was.start) },
            { title: w.startOf(nameOf(later)), kind: "date", cell: (r) => format.day(r.now.start) },
            { title: w.start, kind: "num", cell: (r) => days(r.start) },
            { title: w.finishOf(earlier), kind: "date", cell: (r) => format.day(r.was.finish) },
            { title: w.finishOf(nameOf(later)), kind: "date", cell: (r) => format.day(r.now.finish) },
            { title: w.finish, kind: "num", cell: (r) => days(r.finish) },
            { title: w.duration, kind: "num", cell: (r) => days(r.duration) },
            { title: w.work, kind: "num", cell: (r) => (r.work ? `${format.signed(String(r.work))} h` : "") },
            {
              title: w.cost(found.data.currency),
              kind: "num",
              cell: (r) => (Number(r.cost) ? format.signed(r.cost) : ""),
            },
          ]}
        />
      )}
      {rows.length > MOST && <Soft as="p">{w.others(rows.length - MOST)}</Soft>}
    </>
  );
}

const nameOf = (code: string) => (code === "now" ? w.nowShort : code);
const days = (value: number | null) => (value === null ? "–" : value ? format.drift(value) : "");

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../../api";
import { format, keys, Notice, usePlace } from "../../../shared";
import { Button, DataTable, Input, RowOf, Select } from "../../../shared/ui";
import { words } from "../../../shared/words/resources";
import type { PlanHandle } from "../usePlan";
import type { Resource } from "./columns";

const w = words.resources;

interface Props {
  resource: Resource;
  lists: Schemas["ListsOut"];
  plan: PlanHandle;
  open: boolean;
}

/** The activities that a resource is on; put on more of them, and another put in its place on all. */
export function Assigned({ resource, lists, plan, open }: Props) {
  const { project } = usePlace();
  const [where, setWhere] = useState("");
  const [by, setBy] = useState("");
  const { id } = resource;
  const on = useQuery({
    queryKey: keys.project(project).assigned(id),
    queryFn: () =>
      take(client.GET("/api/projects/{project}/loads/{row}/assigned", { params: { path: { project, row: id } } })),
  });
  const text = where.trim().toLowerCase();
  const there = new Set(on.data?.activities.map((a) => a.row));
  const found = text
    ? lists.activities.filter((a) => !there.has(a.id) && `${a.code} ${a.name}`.toLowerCase().includes(text))
    : [];
  return (
    <>
      {on.isError && <Notice bad>{on.error.message}</Notice>}
      {on.data && on.data.activities.length > 0 && (
        <DataTable
          caption={w.where(on.data.activities.length)}
          rows={on.data.activities}
          keyOf={(a) => a.row}
          columns={[
            { title: w.activity, cell: (a) => `${a.code} ${a.name}` },
            { title: w.state, cell: (a) => w.states[a.state] ?? a.state },
            { title: w.start, cell: (a) => format.weekDay(a.start) },
            { title: w.finish, cell: (a) => format.weekDay(a.finish) },
            { title: w.units, kind: "num", cell: (a) => format.percent(a.units) },
            { title: w.booked, kind: "num", cell: (a) => (a.hours ? format.hours(a.hours) : "") },
          ]}
        />
      )}
      {open && (
        <>
          <RowOf>
            <Input
              aria-label={w.assignTo}
              placeholder={w.assignTo}
              width="260px"
              value={where}
              onChange={(e) => setWhere(e.target.value)}
            />
            <Button
              disabled={!found.length}
              onClick={() => {
                plan.change([{ do: "assign", resource: id, rows: found.map((a) => a.id) }]);
                setWhere("");
              }}
            >
              {w.assign(found.length)}
            </Button>
          </RowOf>
          <RowOf>
            <Select aria-label={w.replace} value={by} onChange={(e) => setBy(e.target.value)}>
              <option value="">{w.replace}</option>
              {lists.resources
                .filter((r) => r.id !== id)
                .map((r) => (
                  <option key={r.id} value={r.id}>
                    {r.name}
                  </option>
                ))}
            </Select>
            <Button
              disabled={!by || !resource.activities}
              onClick={() => plan.change([{ do: "replace", resource: id, by }])}
            >
              {w.replaceNow}
            </Button>
          </RowOf>
        </>
      )}
    </>
  );
}

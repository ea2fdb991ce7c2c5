import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, format, groupBy, keys, Notice, usePlace } from "../../shared";
import { type ListColumn, type ListRow, ListSheet, lineOf, ReadSheet, type SheetColumn } from "../../shared/sheet";
import { Button, RowOf, ScrollBox, Select, Soft } from "../../shared/ui";
import { words } from "../../shared/words/budget";
import { Answered, usePlan, type Verb } from "../plan";

type Estimate = Schemas["EstimateOut"];
const w = words.estimates;
const rowOf = ({ id, name, measure, top, spread_to, total, effect }: Estimate) => ({
  id: id ?? "",
  cells: { name, measure, top: top ?? "", spread_to: spread_to.join("; "), percent: "", total, effect },
});
/** What keeps an estimate, from what stands in its row. */
const kept = ({ name = "", measure, top, spread_to, percent, total }: Record<string, string>, id?: string): Verb => ({
  do: "estimate",
  name,
  measure: measure || "money",
  top,
  spread_to,
  percent,
  total,
  as: id,
});

/** Top-down estimates: a total shared down the tree by weights, a row each, compared, and used in the plan. */
export function Estimates() {
  const { project, page, person } = usePlace();
  const plan = usePlan(project, "estimates", keys.project(project).estimates);
  const [shown, show] = useState("");
  const [with_, setWith] = useState("");
  const found = useQuery({
    queryKey: keys.project(project).estimates,
    queryFn: () => take(client.GET("/api/projects/{project}/estimates", { params: { path: { project } } })),
  });
  const open = person.role !== "reader" && page.state === "wet";
  const list = found.data?.kept;
  const use = useRef((_: string) => {});
  use.current = (estimate) => void plan.change([{ do: "apply", estimate }]);
  const columns = useMemo((): ListColumn[] => {
    const amountOf = (key: string) => (r: ListRow) => amount(r.cells[key] ?? null, r.cells.measure ?? "");
    const press = (r: ListRow) => (
      <Button look="link" aria-label={w.ofName(r.cells.name ?? "")} onClick={() => use.current(r.id)}>
        {w.use}
      </Button>
    );
    return [
      { key: "name", title: w.name, width: 200, left: true, grow: true, needed: true, hint: w.nameHint },
      { key: "measure", title: w.measure, width: 76, left: true, options: w.measures },
      { key: "top", title: w.top, width: 100, left: true, hint: w.topHint },
      { key: "percent", title: w.percent, width: 96, kind: "number", hint: w.percentHint },
      { key: "total", title: w.total, width: 120, kind: "number", needed: true, text: amountOf("total") },
      { key: "spread_to", title: w.spreadTo, width: 150, left: true, hint: w.spreadHint },
      { key: "effect", title: w.effect, width: 130, fixed: true, text: amountOf("effect") },
      ...(open ? [{ key: "use", title: "", label: w.use, width: 70, fixed: true, text: () => "", draw: press }] : []),
    ];
  }, [open]);
  if (found.isPending) return <Bones />;
  if (!list) return <Notice bad>{found.error?.message}</Notice>;
  const rows = list.map(rowOf);
  const main = list.find((e) => e.id === shown) ?? list.at(-1) ?? null;
  const other = list.find((e) => e.id === with_ && e.id !== main?.id) ?? null;
  return (
    <ScrollBox filled>
      <ListSheet
        label={w.title}
        of={project}
        rows={rows}
        columns={columns}
        open={open}
        name="name"
        most={8}
        write={(cells, mine) =>
          plan.fill(
            [...groupBy(cells, (c) => c.row)].flatMap(([row, own]) => {
              const was = rows.find((r) => r.id === row)?.cells;
              const typed = Object.fromEntries(own.map((c) => [c.field, c.text]));
              return [{ do: "remove" as const, rows: [row] }, kept({ ...was, ...typed })];
            }),
            cells,
            mine,
          )
        }
        begin={{
          start: { measure: "money" },
          needs: ["name", "total"],
          add: async (begun) => {
            const done = await plan.fill(
              begun.map(({ id, cells }) => kept(cells, id)),
              begun.flatMap(({ id, cells }) =>
                Object.entries(cells).map(([field, text]) => ({ row: id, field, text })),
              ),
            );
            return done && begun.map((row) => done.made?.[row.id] ?? "");
          },
        }}
        remove={(gone) => plan.change([{ do: "remove", rows: gone.map((r) => r.id) }])}
        troubles={plan.troubles}
        waiting={plan.waiting}
        drop={plan.drop}
        stand={(row) => row && show(row.id)}
      />
      <Answered plan={plan} />
      {main ? (
        <>
          <RowOf>
            <b>{main.name}</b> {amount(main.total, main.measure)}
            <Soft>{main.measure === "money" ? w.moneyHelp : main.spread_to.length ? w.spreadHelp : w.hoursHelp}</Soft>
            {list.length > 1 && (
              <label>
                {w.compare}{" "}
                <Select value={with_} onChange={(e) => setWith(e.target.value)}>
                  <option value="">–</option>
                  {list
                    .filter((e) => e.id !== main.id && e.measure === main.measure)
                    .map((e) => (
                      <option key={e.id} value={e.id ?? ""}>
                        {e.name}
                      </option>
                    ))}
                </Select>
              </label>
            )}
          </RowOf>
          <Shares estimate={main} other={other} plan={plan} open={open} />
        </>
      ) : (
        <Soft as="p">{w.none}</Soft>
      )}
    </ScrollBox>
  );
}

const amount = (value: string | null, measure: string) =>
  value === null ? "–" : measure === "money" ? format.money(value, true) : `${format.money(value, true)} h`;

interface SharesProps {
  estimate: Estimate;
  other: Estimate | null;
  plan: ReturnType<typeof usePlan>;
  open: boolean;
}
type Share = Estimate["rows"][number];
const codeOf = (row: Share) => row.code;
const nameOf = (row: Share) => row.name;
const lookOf = (row: Share) => (row.kind === "wbs" ? "wbs" : undefined);

/** How an estimate is apportioned, row by row; the weights are typed here. */
function Shares({ estimate, other, plan, open }: SharesProps) {
  const { measure } = estimate;
  const columns = useMemo((): SheetColumn<Share>[] => {
    const theirs = new Map((other?.rows ?? []).map((r) => [r.row, r.share]));
    const sum = (key: string, title: string, of: (r: Share) => string | null): SheetColumn<Share> => ({
      key,
      title,
      width: 120,
      text: (r) => amount(of(r), measure),
    });
    return [
      {
        key: "name",
        title: words.columns.activity,
        width: 260,
        grow: true,
        left: true,
        tree: true,
        text: (r) => `${r.code} ${r.name}`,
      },
      { key: "weight", title: w.weight, width: 70, writes: "weight", needed: true, text: (r) => String(r.weight) },
      sum("now", w.now, (r) => r.now),
      sum("share", w.share, (r) => r.share),
      sum("after", w.after, (r) => r.after),
      ...(other ? [sum("other", other.name, (r) => theirs.get(r.row) ?? null)] : []),
    ];
  }, [measure, other]);
  const lines = useMemo(() => estimate.rows.map((row) => lineOf(row.row, row, row.level)), [estimate.rows]);
  const can = useCallback((_: Share, c: SheetColumn<Share>) => open && c.writes !== undefined, [open]);
  return (
    <ReadSheet
      label={w.shares}
      lines={lines}
      columns={columns}
      codeOf={codeOf}
      nameOf={nameOf}
      look={lookOf}
      tree
      can={can}
      write={(cells, mine) =>
        plan.fill(
          cells.map(({ row, text }) => ({ do: "set", row: row.row, cells: { weight: text } })),
          cells.map(({ row, text }) => ({ row: row.row, field: "weight", text })),
          mine,
        )
      }
      troubles={plan.troubles}
      waiting={plan.waiting}
      drop={plan.drop}
    />
  );
}

import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { Bones, format, keys, Notice, usePlace } from "../../shared";
import { ReadSheet, type SheetColumn, type SheetLine } from "../../shared/sheet";
import { Button, Input, RowOf, ScrollBox, Select, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/budget";
import { usePlan } from "../plan";

type Estimate = Schemas["EstimateOut"];
const w = words.estimates;
const EMPTY = { measure: "money", total: "", percent: "", top: "", name: "" };

/** Top-down estimates: a total shared down the tree by weights, before and after side by side, kept, compared, applied. */
export function Estimates() {
  const { project, page, person } = usePlace();
  const plan = usePlan(project, "estimates", "estimates");
  const [form, setForm] = useState(EMPTY);
  const [tried, setTried] = useState<Estimate | null>(null);
  const [wrong, setWrong] = useState("");
  const [with_, setWith] = useState("");
  const [shown, setShown] = useState("");
  const kept = useQuery({
    queryKey: keys.project(project).estimates,
    queryFn: () => take(client.GET("/api/projects/{project}/estimates", { params: { path: { project } } })),
  });
  const open = person.role !== "reader" && page.state === "wet";
  const attempt = async () => {
    try {
      setTried(
        await take(client.GET("/api/projects/{project}/estimates/try", { params: { path: { project }, query: form } })),
      );
      setShown("");
      setWrong("");
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setWrong(error.message);
    }
  };
  const keep = async () => {
    const { name, measure, total, percent, top } = form;
    const done = await plan.change([{ do: "estimate", name, measure, total, percent, top, as: "kept" }]);
    if (done?.made?.kept) {
      setShown(done.made.kept);
      setTried(null);
    }
  };
  if (kept.isPending) return <Bones />;
  if (!kept.data) return <Notice bad>{kept.error?.message}</Notice>;
  const list = kept.data.kept;
  const main = tried ?? list.find((e) => e.id === shown) ?? list.at(-1) ?? null;
  const other = list.find((e) => e.id === with_ && e.id !== main?.id) ?? null;
  const apply = (estimate: string | null) => estimate && plan.change([{ do: "apply", estimate }]);
  const set = (change: Partial<typeof EMPTY>) => setForm((now) => ({ ...now, ...change }));
  return (
    <ScrollBox filled>
      {open && (
        <RowOf>
          <Select aria-label={w.measure} value={form.measure} onChange={(e) => set({ measure: e.target.value })}>
            <option value="money">{w.money}</option>
            <option value="hours">{w.hours}</option>
          </Select>
          {(["total", "percent", "top", "name"] as const).map((key) => (
            <Input
              key={key}
              aria-label={w[key]}
              placeholder={w[key]}
              value={form[key]}
              onChange={(e) => set({ [key]: e.target.value })}
              onKeyDown={(e) => e.key === "Enter" && attempt()}
            />
          ))}
          <Button onClick={attempt}>{w.try}</Button>
          <Button disabled={!form.name.trim() || !form.total.trim()} onClick={keep}>
            {w.keep}
          </Button>
          {(wrong || plan.refused) && (
            <Why role="alert" as="span">
              {wrong || plan.refused}
            </Why>
          )}
        </RowOf>
      )}
      {list.length > 0 && (
        <RowOf>
          <Soft>{w.kept}</Soft>
          {list.map((e) => (
            <Button
              key={e.id}
              aria-pressed={main?.id === e.id}
              onClick={() => {
                setTried(null);
                setShown(e.id ?? "");
              }}
            >
              {e.name}, {amount(e.total, e.measure)}
            </Button>
          ))}
          <label>
            {w.compare}{" "}
            <Select value={with_} onChange={(e) => setWith(e.target.value)}>
              <option value="">–</option>
              {list
                .filter((e) => e.id !== main?.id && e.measure === main?.measure)
                .map((e) => (
                  <option key={e.id} value={e.id ?? ""}>
                    {e.name}
                  </option>
                ))}
            </Select>
          </label>
        </RowOf>
      )}
      {main ? (
        <>
          <RowOf>
            <b>{main.name || w.trying}</b> {amount(main.total, main.measure)}
            {open && main.id !== null && (
              <Button look="seal" onClick={() => apply(main.id)}>
                {w.apply}
              </Button>
            )}
            <Soft>{main.measure === "money" ? w.moneyHelp : w.hoursHelp}</Soft>
          </RowOf>
          {plan.effect && (
            <Soft as="p" role="status">
              {plan.effect.label}
            </Soft>
          )}
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
  const lines = useMemo(
    () => estimate.rows.map((row): SheetLine<Share> => ({ kind: "row", id: row.row, row, depth: row.level, parts: 0 })),
    [estimate.rows],
  );
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

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { format, Notice, usePlace, words } from "../../shared";
import { Button, Input, Select, Table } from "../../shared/ui";
import { usePlan } from "../plan";

type Estimate = Schemas["EstimateOut"];
const w = words.estimates;
const EMPTY = { measure: "money", total: "", percent: "", top: "", name: "" };

/** Top-down estimates: a total shared down the tree by weights, before and after side by side, kept, compared, applied. */
export function Estimates() {
  const { project, page, person } = usePlace();
  const plan = usePlan(project);
  const [form, setForm] = useState(EMPTY);
  const [tried, setTried] = useState<Estimate | null>(null);
  const [wrong, setWrong] = useState("");
  const [with_, setWith] = useState("");
  const [shown, setShown] = useState("");
  const kept = useQuery({
    queryKey: [project, "estimates"],
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
  if (kept.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (kept.isError) return <Notice bad>{kept.error.message}</Notice>;
  const list = kept.data.kept;
  const main = tried ?? list.find((e) => e.id === shown) ?? list.at(-1) ?? null;
  const other = list.find((e) => e.id === with_ && e.id !== main?.id) ?? null;
  const set = (change: Partial<typeof EMPTY>) => setForm((now) => ({ ...now, ...change }));
  return (
    <div className="scroll-box">
      {open && (
        <div className="row-of estimate-form">
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
            <span role="alert" className="why">
              {wrong || plan.refused}
            </span>
          )}
        </div>
      )}
      {list.length > 0 && (
        <div className="row-of">
          <span className="soft-text">{w.kept}</span>
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
        </div>
      )}
      {main ? (
        <>
          <div className="row-of">
            <b>{main.name || w.trying}</b> {amount(main.total, main.measure)}
            {open && main.id && (
              <Button look="seal" onClick={() => plan.change([{ do: "apply", estimate: main.id }])}>
                {w.apply}
              </Button>
            )}
            <span className="soft-text">{main.measure === "money" ? w.moneyHelp : w.hoursHelp}</span>
          </div>
          {plan.effect && (
            <p className="soft-text" role="status">
              {plan.effect.label}
            </p>
          )}
          <Shares estimate={main} other={other} plan={plan} open={open} />
        </>
      ) : (
        <p className="soft-text">{w.none}</p>
      )}
    </div>
  );
}

const amount = (value: string | null, measure: string) =>
  value === null ? "–" : measure === "money" ? format.money(value, true) : `${format.money(value, true)} h`;

function Shares({
  estimate,
  other,
  plan,
  open,
}: {
  estimate: Estimate;
  other: Estimate | null;
  plan: ReturnType<typeof usePlan>;
  open: boolean;
}) {
  const theirs = new Map((other?.rows ?? []).map((r) => [r.row, r.share]));
  return (
    <Table className="plain phased">
      <thead>
        <tr>
          <th>{words.columns.activity}</th>
          <th className="num">{w.weight}</th>
          <th className="num">{w.now}</th>
          <th className="num">{w.share}</th>
          <th className="num">{w.after}</th>
          {other && <th className="num">{other.name}</th>}
        </tr>
      </thead>
      <tbody>
        {estimate.rows.map((r) => (
          <tr key={r.row} className={r.kind === "wbs" ? "wbs-row" : undefined}>
            <th scope="row" style={{ paddingLeft: 8 + r.level * 14 }}>
              {r.code} {r.name}
            </th>
            <td className="num">
              <Input
                className="field weight"
                aria-label={w.weightOf(r.name)}
                defaultValue={r.weight}
                key={r.weight}
                disabled={!open}
                onBlur={(e) =>
                  Number(e.target.value) !== r.weight &&
                  plan.change([{ do: "set", row: r.row, cells: { weight: e.target.value } }])
                }
                onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
              />
            </td>
            <td className="num">{amount(r.now, estimate.measure)}</td>
            <td className="num">{amount(r.share, estimate.measure)}</td>
            <td className="num">{amount(r.after, estimate.measure)}</td>
            {other && <td className="num">{amount(theirs.get(r.row) ?? null, estimate.measure)}</td>}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

import { Entry, numberOf, Pick } from "../../../shared";
import { Button, MarginHead, NoteLine, Why } from "../../../shared/ui";
import { words } from "../../../shared/words/plan";
import { Cross } from "../Cross";
import { useDraft } from "../useDraft";
import { type Part, useWrite } from "./part";

const w = words.plan.note;

interface Weight {
  name: string;
  weight: number | string;
  at: number | string;
}

/** A number where it is one; else the text, for the server to say what is wrong with it. */
const kept = (text: string, by = 1) => {
  const n = numberOf(text.replace("%", "")) / by;
  return Number.isNaN(n) ? text : n;
};
const percentOf = (share: unknown) => (typeof share === "number" ? String(Math.round(share * 10_000) / 100) : "");

/** How an activity earns its value. */
export function Earns(part: Part) {
  const { note, open, plan } = part;
  const { set, trouble } = useWrite(part);
  const [method, put] = useDraft<Record<string, unknown>>(
    note.value_method ?? { type: "percent" },
    (value_method) => set({ value_method }, "value_method", ""),
    trouble("value_method"),
  );
  const type = String(method.type);
  const change = (more: Record<string, unknown>) => put({ ...method, ...more });
  const others = () =>
    [...(plan.sheet.data?.rows.values() ?? [])].filter(
      (r) => r.kind === "task" && r.id !== note.row.id && r.method !== "apportioned",
    );
  const begin = (kind: string) => {
    const extra: Record<string, Record<string, unknown>> = {
      start_share: { share: 0.5 },
      units: { planned: 1 },
      milestones: { weights: [{ name: w.firstWeight, weight: 1, at: 1 }] },
    };
    const base = kind === "apportioned" ? { base: others()[0]?.code } : {};
    put({ type: kind, ...extra[kind], ...base });
  };
  return (
    <>
      <MarginHead>{w.earns}</MarginHead>
      <Pick label={w.method} value={type} disabled={!open} options={Object.entries(words.plan.methods)} write={begin} />
      {type === "start_share" && (
        <Entry
          number
          label={w.share}
          value={percentOf(method.share)}
          disabled={!open}
          write={(t) => change({ share: kept(t, 100) })}
        />
      )}
      {type === "units" && (
        <Entry
          number
          label={w.planned}
          value={String(method.planned ?? "")}
          disabled={!open}
          write={(t) => change({ planned: kept(t) })}
        />
      )}
      {type === "apportioned" && (
        <Entry
          label={w.base}
          value={String(method.base ?? "")}
          choices={others().map((r) => r.code)}
          disabled={!open}
          write={(base) => change({ base: base.trim() })}
        />
      )}
      {type === "milestones" && (
        <Weights rows={(method.weights as Weight[]) ?? []} open={open} put={(weights) => change({ weights })} />
      )}
      {trouble("value_method") && <Why role="alert">{trouble("value_method")}</Why>}
    </>
  );
}

/** Weighted milestones: a name, a weight, and the share of the work at which each is due. */
function Weights({ rows, open, put }: { rows: Weight[]; open: boolean; put: (rows: Weight[]) => void }) {
  const change = (i: number, part: Partial<Weight>) => put(rows.map((x, j) => (j === i ? { ...x, ...part } : x)));
  return (
    <>
      <NoteLine kind="weight" color="soft" aria-hidden="true">
        <span>{w.weightName}</span>
        <span data-right="">{w.weightHead}</span>
        <span data-right="">{w.weightDue}</span>
      </NoteLine>
      {rows.map((x, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: two may have one name until one of them is renamed
        <NoteLine key={`${i}:${x.name}`} kind="weight">
          <Entry
            bare
            label={w.weightName}
            value={x.name}
            disabled={!open}
            write={(name) => change(i, { name: name.trim() })}
          />
          <Entry
            bare
            right
            number
            label={w.weightOf(x.name)}
            value={String(x.weight)}
            disabled={!open}
            write={(t) => change(i, { weight: kept(t) })}
          />
          <Entry
            bare
            right
            number
            label={w.weightAt(x.name)}
            value={percentOf(x.at)}
            disabled={!open}
            write={(t) => change(i, { at: kept(t, 100) })}
          />
          {open && rows.length > 1 && (
            <Cross label={w.dropWeight(x.name)} act={() => put(rows.filter((_, j) => j !== i))} />
          )}
        </NoteLine>
      ))}
      {open && (
        <Button onClick={() => put([...rows, { name: w.newWeight(rows.length + 1), weight: 1, at: 1 }])}>
          {w.addWeight}
        </Button>
      )}
    </>
  );
}

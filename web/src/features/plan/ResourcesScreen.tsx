import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Entry, format, Notice, Pick, usePlace, words } from "../../shared";
import { useLists } from "./CalendarsScreen";
import { LoadChart } from "./LoadChart";
import { PlanTabs } from "./PlanTabs";
import { Turns } from "./ProjectScreen";
import { type PlanHandle, usePlan } from "./usePlan";

interface Rate {
  from: string;
  amount: string;
  per: string;
  overtime?: string;
}
interface Resource {
  id: string;
  code: string;
  name: string;
  kind?: string;
  units?: number;
  calendar?: string;
  role?: boolean;
  rates?: Rate[];
  skills?: string[];
  activities: number;
}

const w = words.resources;
const PERS = ["hour", "started_hour", "day", "week", "month", "use", "unit"];

/** People, roles, equipment and material: rates by date, where they are used, and their load over time. */
export function ResourcesScreen() {
  const { project, page, person } = usePlace();
  const plan = usePlan(project);
  const lists = useLists(project);
  const [at, setAt] = useState<string | null>(null);
  const [bucket, setBucket] = useState<"day" | "week" | "month">("week");
  const [name, setName] = useState("");
  const loads = useQuery({
    queryKey: [project, "loads", bucket],
    queryFn: () =>
      take(client.GET("/api/projects/{project}/loads", { params: { path: { project }, query: { bucket } } })),
  });
  if (lists.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (lists.isError) return <Notice bad>{lists.error.message}</Notice>;
  const open = person.role !== "reader" && page.state === "wet";
  const resources = lists.data.resources as unknown as Resource[];
  const chosen = resources.find((r) => r.id === at) ?? resources[0];
  const over = new Map((loads.data?.loads ?? []).map((l) => [l.id, l.over.length]));
  const load = loads.data?.loads.find((l) => l.id === chosen?.id);
  return (
    <>
      <div className="sheet-head">
        <h1>{w.title}</h1>
        <span className="told">
          {plan.refused ? (
            <span role="alert" className="act-text">
              {plan.refused}
            </span>
          ) : (
            plan.effect?.label
          )}
        </span>
        <span className="space" />
        {open && <Turns plan={plan} />}
      </div>
      <PlanTabs />
      <div className="side-by">
        <div className="side-list">
          {resources.map((r) => (
            <button
              key={r.id}
              type="button"
              className={r === chosen ? "side-item active" : "side-item"}
              onClick={() => setAt(r.id)}
            >
              {r.name}
              <span className="soft-text">
                {" "}
                {r.code}
                {r.role && `, ${w.roleShort}`}
              </span>
              {!!over.get(r.id) && <span className="act-text"> {w.over(over.get(r.id) ?? 0, bucket)}</span>}
            </button>
          ))}
          {resources.length === 0 && <p className="soft-text">{w.none}</p>}
          {open && (
            <form
              className="row-of"
              onSubmit={(e) => {
                e.preventDefault();
                if (!name.trim()) return;
                plan
                  .change([{ do: "add", list: "resources", cells: { name }, as: "new" }])
                  .then((done) => done?.made?.new && setAt(done.made.new));
                setName("");
              }}
            >
              <input
                className="field"
                aria-label={w.add}
                placeholder={w.add}
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
              <button type="submit" className="act-on">
                {words.project.addIt}
              </button>
            </form>
          )}
        </div>
        {chosen && (
          <div className="scroll-box calendar-edit">
            <Editor key={chosen.id} resource={chosen} all={resources} lists={lists.data} plan={plan} open={open} />
            <h2 className="part-title">
              {w.load}
              <Pick
                bare
                label={w.by}
                value={bucket}
                options={[
                  ["day", w.day],
                  ["week", w.week],
                  ["month", w.month],
                ]}
                write={(b) => setBucket(b as "day" | "week" | "month")}
              />
            </h2>
            {loads.isError && <Notice bad>{loads.error.message}</Notice>}
            {load && loads.data && <LoadChart load={load} loads={loads.data} />}
            {chosen.kind === "material" && <p className="soft-text">{w.noLoad}</p>}
          </div>
        )}
      </div>
    </>
  );
}

interface Part {
  resource: Resource;
  all: Resource[];
  lists: Schemas["ListsOut"];
  plan: PlanHandle;
  open: boolean;
}

function Editor({ resource, all, lists, plan, open }: Part) {
  const [by, setBy] = useState("");
  const [where, setWhere] = useState("");
  const id = resource.id;
  const set = (cells: Record<string, unknown>, field: string, text = "") =>
    plan.change([{ do: "set", row: id, cells }], { row: id, field, text });
  const trouble = (field: string) => plan.troubles[`${id}:${field}`]?.message;
  const calendars = lists.calendars as unknown as { code: string; name: string }[];
  const found = where.trim()
    ? lists.activities.filter((a) => `${a.code} ${a.name}`.toLowerCase().includes(where.trim().toLowerCase()))
    : [];
  return (
    <>
      <div className="facts-grid">
        <Entry
          label={w.name}
          value={resource.name}
          disabled={!open}
          write={(name) => set({ name }, "name", name)}
          trouble={trouble("name")}
        />
        <Entry
          label={w.code}
          value={resource.code}
          disabled={!open}
          write={(code) => set({ code }, "code", code)}
          trouble={trouble("code")}
        />
        <Pick
          label={w.kind}
          value={resource.kind ?? "labour"}
          disabled={!open}
          options={[
            ["labour", w.labour],
            ["equipment", w.equipment],
            ["material", w.material],
          ]}
          write={(kind) => set({ kind }, "kind", kind)}
        />
        <Entry
          label={w.units}
          value={String(resource.units ?? 1)}
          disabled={!open}
          write={(units) => set({ units }, "units", units)}
          trouble={trouble("units")}
        />
        <Pick
          label={w.calendar}
          value={resource.calendar ?? ""}
          disabled={!open}
          options={[["", w.projectCalendar], ...calendars.map((c): [string, string] => [c.code, c.name])]}
          write={(calendar) => set({ calendar }, "calendar", calendar)}
        />
        <Entry
          label={w.skills}
          value={(resource.skills ?? []).join("; ")}
          placeholder={w.skillsHint}
          disabled={!open}
          write={(skills) => set({ skills }, "skills", skills)}
          trouble={trouble("skills")}
        />
        <label className="tick-box">
          <input
            type="checkbox"
            checked={!!resource.role}
            disabled={!open}
            onChange={(e) => set({ role: e.target.checked }, "role")}
          />
          {w.role}
        </label>
      </div>
      <h2 className="part-title">{w.rates}</h2>
      <Rates
        rates={resource.rates ?? []}
        put={(next) => set({ rates: next }, "rates")}
        open={open}
        currency={lists.currency}
      />
      {trouble("rates") && (
        <p role="alert" className="why">
          {trouble("rates")}
        </p>
      )}
      <h2 className="part-title">{w.where(resource.activities)}</h2>
      {open && (
        <>
          <div className="row-of">
            <input
              className="field"
              aria-label={w.assignTo}
              placeholder={w.assignTo}
              value={where}
              onChange={(e) => setWhere(e.target.value)}
            />
            <button
              type="button"
              className="act-on"
              disabled={!found.length}
              onClick={() => {
                plan.change([{ do: "assign", resource: id, rows: found.map((a) => a.id) }]);
                setWhere("");
              }}
            >
              {w.assign(found.length)}
            </button>
          </div>
          <div className="row-of">
            <select className="field" aria-label={w.replace} value={by} onChange={(e) => setBy(e.target.value)}>
              <option value="">{w.replace}</option>
              {all
                .filter((r) => r.id !== id)
                .map((r) => (
                  <option key={r.id} value={r.id}>
                    {r.name}
                  </option>
                ))}
            </select>
            <button
              type="button"
              className="act-on"
              disabled={!by || !resource.activities}
              onClick={() => plan.change([{ do: "replace", resource: id, by }])}
            >
              {w.replaceNow}
            </button>
            {resource.activities === 0 && (
              <button type="button" className="act-on" onClick={() => plan.change([{ do: "remove", rows: [id] }])}>
                {w.remove}
              </button>
            )}
          </div>
        </>
      )}
    </>
  );
}

function Rates({
  rates,
  put,
  open,
  currency,
}: {
  rates: Rate[];
  put: (next: Rate[]) => void;
  open: boolean;
  currency: string;
}) {
  const [form, setForm] = useState({ from: "", amount: "", per: "hour", overtime: "" });
  const per = PERS.map((p): [string, string] => [p, p.replace("_", " ")]);
  return (
    <table className="plain register">
      <thead>
        <tr>
          <th>{w.since}</th>
          <th>{w.amount(currency)}</th>
          <th>{w.per}</th>
          <th>{w.overtime}</th>
          {open && <th aria-label={w.remove} />}
        </tr>
      </thead>
      <tbody>
        {rates.map((r, i) => {
          const change = (key: keyof Rate) => (text: string) =>
            put(rates.map((x, j) => (j === i ? { ...x, [key]: text } : x)));
          return (
            <tr key={`${r.per}${r.from}`}>
              <td>
                <Entry bare label={w.since} value={format.fullDay(r.from)} disabled={!open} write={change("from")} />
              </td>
              <td>
                <Entry
                  bare
                  right
                  label={w.amount(currency)}
                  value={r.amount}
                  disabled={!open}
                  write={change("amount")}
                />
              </td>
              <td>
                <Pick bare label={w.per} value={r.per} options={per} disabled={!open} write={change("per")} />
              </td>
              <td>
                <Entry
                  bare
                  right
                  label={w.overtime}
                  value={r.overtime ?? ""}
                  disabled={!open}
                  write={change("overtime")}
                />
              </td>
              {open && (
                <td>
                  <button
                    type="button"
                    className="quiet"
                    aria-label={w.dropRate(r.from)}
                    onClick={() => put(rates.filter((x) => x !== r))}
                  >
                    ×
                  </button>
                </td>
              )}
            </tr>
          );
        })}
      </tbody>
      {open && (
        <tfoot>
          <tr>
            {(["from", "amount"] as const).map((key) => (
              <td key={key}>
                <input
                  className="field"
                  aria-label={key === "from" ? w.newSince : w.newAmount}
                  placeholder={key === "from" ? w.sinceHint : "0.00"}
                  value={form[key]}
                  onChange={(e) => setForm({ ...form, [key]: e.target.value })}
                />
              </td>
            ))}
            <td>
              <select
                className="field"
                aria-label={w.newPer}
                value={form.per}
                onChange={(e) => setForm({ ...form, per: e.target.value })}
              >
                {per.map(([v, word]) => (
                  <option key={v} value={v}>
                    {word}
                  </option>
                ))}
              </select>
            </td>
            <td>
              <input
                className="field"
                aria-label={w.newOvertime}
                value={form.overtime}
                onChange={(e) => setForm({ ...form, overtime: e.target.value })}
              />
            </td>
            <td>
              <button
                type="button"
                className="act-on"
                onClick={() => {
                  put([
                    ...rates,
                    {
                      from: form.from,
                      amount: form.amount,
                      per: form.per,
                      ...(form.overtime ? { overtime: form.overtime } : {}),
                    },
                  ]);
                  setForm({ from: "", amount: "", per: form.per, overtime: "" });
                }}
              >
                {w.addRate}
              </button>
            </td>
          </tr>
        </tfoot>
      )}
    </table>
  );
}

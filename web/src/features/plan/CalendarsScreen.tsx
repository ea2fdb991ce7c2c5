import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Entry, Notice, usePlace, words } from "../../shared";
import { PlanTabs } from "./PlanTabs";
import { Turns } from "./ProjectScreen";
import { type PlanHandle, usePlan } from "./usePlan";
import { YearPage } from "./YearPage";

export interface Exception {
  from: string;
  to: string;
  shifts?: string[];
  name?: string;
}
export interface Calendar {
  id: string;
  code: string;
  name: string;
  week: Record<string, string[]>;
  exceptions?: Exception[];
  hours_per_day?: number;
  hours_per_week?: number;
  hours_per_month?: number;
  users: string[];
  used: number;
}

const w = words.calendars;
export const DAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const;

export const useLists = (project: string) =>
  useQuery({
    queryKey: [project, "lists"],
    queryFn: () => take(client.GET("/api/projects/{project}/plan/lists", { params: { path: { project } } })),
  });

/** The calendars: week patterns, special days, holidays, seen on a year page, and who uses each. */
export function CalendarsScreen() {
  const { project, page, person } = usePlace();
  const plan = usePlan(project);
  const lists = useLists(project);
  const [at, setAt] = useState(0);
  const [name, setName] = useState("");
  if (lists.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (lists.isError) return <Notice bad>{lists.error.message}</Notice>;
  const open = person.role !== "reader" && page.state === "wet";
  const calendars = lists.data.calendars as unknown as Calendar[];
  const chosen = calendars[Math.min(at, calendars.length - 1)];
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
          {calendars.map((c, i) => (
            <button
              key={c.id}
              type="button"
              className={c === chosen ? "side-item active" : "side-item"}
              onClick={() => setAt(i)}
            >
              {c.name}
              <span className="soft-text"> {w.used(c.used)}</span>
            </button>
          ))}
          {open && (
            <form
              className="row-of"
              onSubmit={(e) => {
                e.preventDefault();
                if (!name.trim()) return;
                const week = chosen?.week ?? {};
                plan
                  .change([{ do: "add", list: "calendars", cells: { name, week } }])
                  .then((done) => done && setAt(calendars.length));
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
        {chosen && <Editor key={chosen.id} calendar={chosen} lists={lists.data} plan={plan} open={open} />}
      </div>
    </>
  );
}

interface Part {
  calendar: Calendar;
  plan: PlanHandle;
  open: boolean;
}

function Editor({ calendar, lists, plan, open }: Part & { lists: Schemas["ListsOut"] }) {
  const [year, setYear] = useState(Number(lists.start.slice(0, 4)));
  const id = calendar.id;
  const set = (cells: Record<string, unknown>, field: string, text = "") =>
    plan.change([{ do: "set", row: id, cells }], { row: id, field, text });
  const trouble = (field: string) => plan.troubles[`${id}:${field}`]?.message;
  const exceptions = calendar.exceptions ?? [];
  const put = (next: Exception[]) => set({ exceptions: next }, "exceptions");
  return (
    <div className="scroll-box calendar-edit">
      <div className="facts-grid">
        <Entry
          label={w.name}
          value={calendar.name}
          disabled={!open}
          write={(name) => set({ name }, "name", name)}
          trouble={trouble("name")}
        />
        <Entry
          label={w.code}
          value={calendar.code}
          disabled={!open}
          write={(code) => set({ code }, "code", code)}
          trouble={trouble("code")}
        />
      </div>
      <h2 className="part-title">{w.week}</h2>
      <div className="week-line">
        {DAYS.map((d) => (
          <div key={d}>
            <span>{w.days[d]}</span>
            <Entry
              bare
              label={w.days[d] ?? d}
              value={(calendar.week[d] ?? []).join(", ")}
              placeholder={w.off}
              disabled={!open}
              write={(text) => set({ week: { ...calendar.week, [d]: text } }, `week.${d}`, text)}
              trouble={trouble(`week.${d}`)}
            />
          </div>
        ))}
      </div>
      {trouble("week") && (
        <p role="alert" className="why">
          {trouble("week")}
        </p>
      )}
      <div className="facts-grid three">
        {(["hours_per_day", "hours_per_week", "hours_per_month"] as const).map((key) => (
          <Entry
            key={key}
            label={w[key]}
            value={String(calendar[key] ?? { hours_per_day: 8, hours_per_week: 40, hours_per_month: 160 }[key])}
            disabled={!open}
            write={(text) => set({ [key]: text }, key, text)}
            trouble={trouble(key)}
          />
        ))}
      </div>
      <h2 className="part-title">
        {w.year}
        <button type="button" className="quiet" aria-label={w.before} onClick={() => setYear(year - 1)}>
          ‹
        </button>
        {year}
        <button type="button" className="quiet" aria-label={w.after} onClick={() => setYear(year + 1)}>
          ›
        </button>
      </h2>
      <YearPage
        calendar={calendar}
        year={year}
        turn={
          open
            ? (day, known) =>
                put(
                  known
                    ? exceptions.filter((e) => e !== known)
                    : [...exceptions, { from: day, to: day, shifts: [], name: w.dayOff }],
                )
            : undefined
        }
      />
      {open && <Holidays year={year} exceptions={exceptions} put={put} />}
      <Special exceptions={exceptions} put={put} open={open} />
      {trouble("exceptions") && (
        <p role="alert" className="why">
          {trouble("exceptions")}
        </p>
      )}
      <h2 className="part-title">{w.who}</h2>
      <p>{calendar.users.length ? calendar.users.join(", ") : w.nobody}</p>
      {open && calendar.used === 0 && (
        <button type="button" className="act-on" onClick={() => plan.change([{ do: "remove", rows: [id] }])}>
          {w.remove}
        </button>
      )}
    </div>
  );
}

function Special({
  exceptions,
  put,
  open,
}: {
  exceptions: Exception[];
  put: (next: Exception[]) => void;
  open: boolean;
}) {
  const [form, setForm] = useState({ from: "", to: "", shifts: "", name: "" });
  return (
    <table className="plain register">
      <thead>
        <tr>
          <th>{w.from}</th>
          <th>{w.to}</th>
          <th>{w.hours}</th>
          <th>{w.called}</th>
          {open && <th aria-label={w.remove} />}
        </tr>
      </thead>
      <tbody>
        {exceptions.map((e, i) => (
          <tr key={`${e.from} ${e.to}`}>
            {(["from", "to", "shifts", "name"] as const).map((key) => (
              <td key={key}>
                <Entry
                  bare
                  label={`${w[key === "shifts" ? "hours" : key === "name" ? "called" : key]}, ${e.name ?? e.from}`}
                  value={key === "shifts" ? (e.shifts ?? []).join(", ") : (e[key] ?? "")}
                  placeholder={key === "shifts" ? w.off : ""}
                  disabled={!open}
                  write={(text) => put(exceptions.map((x, j) => (j === i ? ({ ...x, [key]: text } as Exception) : x)))}
                />
              </td>
            ))}
            {open && (
              <td>
                <button
                  type="button"
                  className="quiet"
                  aria-label={w.drop(e.name ?? e.from)}
                  onClick={() => put(exceptions.filter((x) => x !== e))}
                >
                  ×
                </button>
              </td>
            )}
          </tr>
        ))}
      </tbody>
      {open && (
        <tfoot>
          <tr>
            {(["from", "to", "shifts", "name"] as const).map((key) => (
              <td key={key}>
                <input
                  className="field"
                  aria-label={w[key === "shifts" ? "hours" : key === "name" ? "called" : key]}
                  placeholder={{ from: w.dateHint, to: w.toHint, shifts: w.off, name: w.called }[key]}
                  value={form[key]}
                  onChange={(e) => setForm({ ...form, [key]: e.target.value })}
                />
              </td>
            ))}
            <td>
              <button
                type="button"
                className="act-on"
                onClick={() => {
                  if (!form.from.trim()) return;
                  put([
                    ...exceptions,
                    { from: form.from, to: form.to, shifts: form.shifts ? [form.shifts] : [], name: form.name },
                  ]);
                  setForm({ from: "", to: "", shifts: "", name: "" });
                }}
              >
                {w.special}
              </button>
            </td>
          </tr>
        </tfoot>
      )}
    </table>
  );
}

function Holidays({
  year,
  exceptions,
  put,
}: {
  year: number;
  exceptions: Exception[];
  put: (next: Exception[]) => void;
}) {
  const [country, setCountry] = useState("");
  const [said, setSaid] = useState("");
  const templates = useQuery({ queryKey: ["templates"], queryFn: () => take(client.GET("/api/templates")) });
  const bring = async () => {
    const found = await take(client.GET("/api/holidays", { params: { query: { country, year } } }));
    const free = (found.days ?? []).filter(
      (d) => !exceptions.some((e) => e.from <= d.date && d.date <= (e.to || e.from)),
    );
    setSaid(w.brought(free.length));
    if (free.length) put([...exceptions, ...free.map((d) => ({ from: d.date, to: d.date, shifts: [], name: d.name }))]);
  };
  return (
    <div className="row-of holidays">
      <select className="field" aria-label={w.country} value={country} onChange={(e) => setCountry(e.target.value)}>
        <option value="">{w.country}</option>
        {(templates.data?.countries ?? []).map((c) => (
          <option key={c.code} value={c.code}>
            {c.name}
          </option>
        ))}
      </select>
      <button type="button" className="act-on" disabled={!country} onClick={bring}>
        {w.bring(year)}
      </button>
      <span className="soft-text" role="status">
        {said}
      </span>
    </div>
  );
}

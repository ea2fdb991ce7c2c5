import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api";
import { Entry, format, Notice, Pick, usePlace, words } from "../../shared";
import { Button, Input, Table } from "../../shared/ui";
import { Cross } from "./Cross";
import { PlanTabs } from "./PlanTabs";
import { type PlanHandle, usePlan } from "./usePlan";

const w = words.project;
const TEXTS = ["name", "code", "client", "manager", "currency"] as const;
const DATES = ["start", "deadline", "imposed_finish"] as const;

/** The project's own page: what it is, and its registers. */
export function ProjectScreen() {
  const { project, page, person } = usePlace();
  const plan = usePlan(project);
  const about = useQuery({
    queryKey: [project, "about"],
    queryFn: () => take(client.GET("/api/projects/{project}/about", { params: { path: { project } } })),
  });
  const [register, setRegister] = useState("risks");
  if (about.isPending || plan.sheet.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (about.isError) return <Notice bad>{about.error.message}</Notice>;
  const open = person.role !== "reader" && page.state === "wet";
  const chosen = about.data.registers.find((r) => r.key === register);
  return (
    <>
      <div className="sheet-head">
        <h1>{w.title}</h1>
        <span className="told">{plan.refused ?? plan.effect?.label ?? ""}</span>
        <span className="space" />
        {open && <Turns plan={plan} />}
      </div>
      <PlanTabs />
      <div className="scroll-box">
        <Facts about={about.data} plan={plan} open={open} />
        <div className="parts" role="tablist" aria-label={w.registers}>
          {about.data.registers.map((r) => (
            <Button
              key={r.key}
              role="tab"
              aria-selected={register === r.key}
              look="bare"
              className={register === r.key ? "active" : ""}
              onClick={() => setRegister(r.key)}
            >
              {w.register[r.key] ?? r.key} <span className="soft-text">{r.rows.length || ""}</span>
            </Button>
          ))}
        </div>
        {chosen && <Register key={chosen.key} register={chosen} plan={plan} open={open} />}
      </div>
    </>
  );
}

/** Undo and redo beside a screen's title. */
export function Turns({ plan }: { plan: PlanHandle }) {
  return (
    <>
      <Button onClick={plan.undo}>{words.posting.undo}</Button>
      <Button onClick={plan.redo}>{words.posting.redo}</Button>
    </>
  );
}

interface Part {
  plan: PlanHandle;
  open: boolean;
}

function Facts({ about, plan, open }: Part & { about: Schemas["ProjectPage"] }) {
  const { project, person } = usePlace();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const own = about.project as Record<string, string | undefined>;
  const id = String(own.id);
  const write = (key: string) => async (text: string) => {
    const done = await plan.change([{ do: "set", row: id, cells: { [key]: text } }], { row: id, field: key, text });
    if (done && key === "code") {
      queries.removeQueries({ queryKey: [project] });
      navigate(`/${encodeURIComponent(text.trim())}/now/plan/project`, { replace: true });
    }
  };
  const trouble = (key: string) => plan.troubles[`${id}:${key}`]?.message;
  const calendars = about.calendars.map((c): [string, string] => [c.code, c.name]);
  const states = own.state && !about.states.includes(own.state) ? [...about.states, own.state] : about.states;
  return (
    <div className="facts-grid">
      {TEXTS.map((key) => (
        <Entry
          key={key}
          label={w.fields[key] ?? key}
          value={own[key] ?? ""}
          disabled={!open}
          write={write(key)}
          trouble={trouble(key)}
        />
      ))}
      {DATES.map((key) => (
        <Entry
          key={key}
          label={w.fields[key] ?? key}
          value={own[key] ? format.fullDay(own[key]) : ""}
          disabled={!open}
          write={write(key)}
          trouble={trouble(key)}
        />
      ))}
      <Pick
        label={w.fields.calendar ?? ""}
        value={own.calendar ?? ""}
        options={calendars}
        disabled={!open}
        write={write("calendar")}
      />
      <Pick
        label={w.fields.state ?? ""}
        value={own.state ?? ""}
        options={[["", "–"], ...states.map((s): [string, string] => [s, s])]}
        disabled={!open}
        write={write("state")}
      />
      <Pick
        label={w.fields.treatment ?? ""}
        value={own.treatment ?? "retained"}
        options={[
          ["retained", w.retained],
          ["override", w.override],
          ["recorded", w.recorded],
        ]}
        disabled={!open}
        write={write("treatment")}
      />
      <Entry
        label={w.fields.critical_float ?? ""}
        value={own.critical_float ?? ""}
        placeholder="0d"
        disabled={!open}
        write={write("critical_float")}
        trouble={trouble("critical_float")}
      />
      <div className="wide">
        <Entry
          long
          label={w.fields.description ?? ""}
          value={own.description ?? ""}
          disabled={!open}
          write={write("description")}
        />
      </div>
      {person.role === "approver" && <States states={about.states} />}
    </div>
  );
}

function States({ states }: { states: string[] }) {
  const queries = useQueryClient();
  const [wrong, setWrong] = useState("");
  const keep = async (text: string) => {
    try {
      await take(client.PUT("/api/states", { body: { states: text.split(/[\n;]/) } }));
      setWrong("");
      queries.invalidateQueries({ predicate: (q) => q.queryKey[1] === "about" });
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "");
    }
  };
  return (
    <div className="wide">
      <Entry label={w.states} value={states.join("; ")} write={keep} trouble={wrong} />
    </div>
  );
}

function Register({ register, plan, open }: Part & { register: Schemas["RegisterOut"] }) {
  const [name, setName] = useState("");
  const title = w.register[register.key] ?? register.key;
  return (
    <Table className="plain register entries">
      <thead>
        <tr>
          <th>{w.code}</th>
          <th>{w.name}</th>
          {register.columns.map((c) => (
            <th key={c.key}>{w.column(c.key)}</th>
          ))}
          {open && <th aria-label={w.out} />}
        </tr>
      </thead>
      <tbody>
        {register.rows.map((row) => (
          <RegisterRow
            key={String(row.id)}
            row={row as Record<string, unknown>}
            columns={register.columns}
            plan={plan}
            open={open}
          />
        ))}
        {register.rows.length === 0 && (
          <tr>
            <td colSpan={register.columns.length + 3} className="soft-text">
              {w.none(title.toLowerCase())}
            </td>
          </tr>
        )}
      </tbody>
      {open && (
        <tfoot>
          <tr>
            <td />
            <td colSpan={register.columns.length + 2}>
              <form
                className="row-of"
                onSubmit={(e) => {
                  e.preventDefault();
                  if (!name.trim()) return;
                  plan.change([
                    {
                      do: "add",
                      list: register.key,
                      cells: { name, ...(register.key === "fields" ? { kind: "text" } : {}) },
                    },
                  ]);
                  setName("");
                }}
              >
                <Input
                  aria-label={w.add(title.toLowerCase())}
                  placeholder={w.add(title.toLowerCase())}
                  value={name}
                  onChange={(e) => setName(e.target.value)}
                />
                <Button type="submit">{w.addIt}</Button>
              </form>
            </td>
          </tr>
        </tfoot>
      )}
    </Table>
  );
}

function RegisterRow({
  row,
  columns,
  plan,
  open,
}: Part & { row: Record<string, unknown>; columns: Schemas["RegisterColumn"][] }) {
  const id = String(row.id);
  const text = (value: unknown) => (Array.isArray(value) ? value.join("; ") : value == null ? "" : String(value));
  const write = (key: string) => (value: string) =>
    plan.change([{ do: "set", row: id, cells: { [key]: value } }], { row: id, field: key, text: value });
  const trouble = (key: string) => plan.troubles[`${id}:${key}`]?.message;
  const label = (key: string) => `${w.column(key)}, ${text(row.name)}`;
  return (
    <tr>
      <td>
        <Entry
          bare
          label={label("code")}
          value={text(row.code)}
          disabled={!open}
          write={write("code")}
          trouble={trouble("code")}
        />
      </td>
      <td>
        <Entry
          bare
          label={label("name")}
          value={text(row.name)}
          disabled={!open}
          write={write("name")}
          trouble={trouble("name")}
        />
      </td>
      {columns.map((c) => (
        <td key={c.key}>
          {c.kind === "choice" ? (
            <Pick
              bare
              label={label(c.key)}
              value={text(row[c.key])}
              options={[["", "–"], ...c.options.map((o): [string, string] => [o, o.replaceAll("_", " ")])]}
              disabled={!open}
              write={write(c.key)}
            />
          ) : (
            <Entry
              bare
              long={c.kind === "long"}
              right={c.kind === "amount" || c.kind === "percent"}
              label={label(c.key)}
              value={text(row[c.key])}
              disabled={!open}
              write={write(c.key)}
              trouble={trouble(c.key)}
            />
          )}
        </td>
      ))}
      {open && (
        <td>
          <Cross label={`${w.out}: ${text(row.name)}`} act={() => plan.change([{ do: "remove", rows: [id] }])} />
        </td>
      )}
    </tr>
  );
}

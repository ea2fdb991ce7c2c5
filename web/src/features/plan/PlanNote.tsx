import { Box, Heading } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Entry, format, Notice, Pick, usePlace, words } from "../../shared";
import { VALUE_METHODS } from "./columns";
import { type PlanHandle, type PlanInfo, settled, usePlan, type Verb } from "./usePlan";

type RowOut = Schemas["RowOut"];
const w = words.plan.note;

/** The margin of an activity of the plan: what drives it, and all of it that can be changed. */
export function PlanNote({ id }: { id: string }) {
  const { project, page, person } = usePlace();
  const plan = usePlan(project);
  const note = useQuery({
    queryKey: [project, "row", id],
    queryFn: async ({ signal }) => {
      await settled(project);
      signal.throwIfAborted();
      return take(
        client.GET("/api/projects/{project}/plan/rows/{row}", { params: { path: { project, row: id } }, signal }),
      );
    },
    placeholderData: (before) => (before?.row.id === id ? before : undefined),
  });
  if (note.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (note.isError) return <Notice bad>{note.error.message}</Notice>;
  const open = person.role !== "reader" && page.state === "wet";
  const info = plan.sheet.data?.info;
  const { row } = note.data;
  const given = { note: note.data, plan, open };
  return (
    <Box className="plan-note">
      <Heading as="h2" className="margin-title">
        {row.name}
      </Heading>
      <Box color="soft">{row.code}</Box>
      <div className="pair dotted facts">
        <span>
          {format.day(row.start)} to {format.day(row.finish)}
        </span>
        <span>{row.total_float == null ? "" : w.float(row.total_float)}</span>
      </div>
      {note.data.drivers.length > 0 && (
        <>
          <h3 className="margin-head">{words.margin.drives}</h3>
          {note.data.drivers.map((d) => (
            <div key={d}>{d}</div>
          ))}
        </>
      )}
      {row.odd === "duration" && <Odd {...given} />}
      {plan.refused && (
        <div role="alert" className="why">
          {plan.refused}
        </div>
      )}
      <Links {...given} />
      <Held {...given} info={info} />
      <People {...given} info={info} />
      <Costs {...given} />
      <Earns {...given} />
    </Box>
  );
}

interface Part {
  note: RowOut;
  plan: PlanHandle;
  open: boolean;
}

const useWrite = ({ note, plan }: Part) => {
  const id = note.row.id;
  return {
    set: (cells: Record<string, unknown>, field: string, text: string) =>
      plan.change([{ do: "set", row: id, cells }], { row: id, field, text }),
    trouble: (field: string, row = id) => plan.troubles[`${row}:${field}`]?.message,
    on: (row: string, cells: Record<string, unknown>, field: string, text = "", verb = "set") =>
      plan.change([{ do: verb, row, cells }], { row, field, text }),
    remove: (row: string) => plan.change([{ do: "remove", rows: [row] }]),
    run: (verb: Verb, field: string, text = "") => plan.change([verb], { row: id, field, text }),
  };
};

function Odd(part: Part) {
  const { set } = useWrite(part);
  return (
    <div className="working" role="note">
      {w.oddMilestone(part.note.row.duration ?? "")}
      {part.open && (
        <div className="row-of">
          <button type="button" className="act-on" onClick={() => set({ kind: "task" }, "kind", "")}>
            {w.makeTask}
          </button>
          <button type="button" className="act-on" onClick={() => set({ duration: "" }, "duration", "")}>
            {w.dropDuration}
          </button>
        </div>
      )}
    </div>
  );
}

const TYPES: [string, string][] = [
  ["FS", "FS"],
  ["SS", "SS"],
  ["FF", "FF"],
  ["SF", "SF"],
];

function Links(part: Part) {
  const { note, open, plan } = part;
  const { on, remove, run, trouble } = useWrite(part);
  const [text, setText] = useState("");
  const rows = plan.sheet.data?.rows;
  const options = text
    ? [...(rows?.values() ?? [])]
        .filter(
          (r) =>
            r.kind !== "wbs" &&
            r.id !== note.row.id &&
            `${r.code} ${r.name}`.toLowerCase().includes(text.toLowerCase()),
        )
        .slice(0, 12)
    : [];
  const add = () => {
    const code = text.split(" ")[0]?.toLowerCase();
    const found = options.find((r) => r.code.toLowerCase() === code) ?? options[0];
    if (!found) return;
    run({ do: "add", list: "links", from: found.id, to: note.row.id }, "after", text);
    setText("");
  };
  return (
    <>
      <h3 className="margin-head">{w.after}</h3>
      {note.before.map((k) => (
        <div key={k.id} className="note-line" title={k.words}>
          <span className="note-name">
            {k.code} {k.name}
          </span>
          <Pick
            bare
            label={w.type(k.name)}
            value={k.type}
            options={TYPES}
            disabled={!open}
            write={(type) => on(k.id, { type }, "type", type, "link")}
          />
          <Entry
            bare
            right
            label={w.lag(k.name)}
            value={k.lag === "0d" ? "" : k.lag}
            placeholder={w.lagHint}
            disabled={!open}
            write={(lag) => on(k.id, { lag }, "lag", lag, "link")}
            trouble={trouble("lag", k.id)}
          />
          {open && <Cross label={w.cut(k.name)} act={() => remove(k.id)} />}
        </div>
      ))}
      {note.before.length === 0 && <div className="soft-text">{w.noLinks}</div>}
      {open && (
        <form
          className="note-line"
          onSubmit={(e) => {
            e.preventDefault();
            add();
          }}
        >
          <input
            aria-label={w.addLink}
            placeholder={w.addLink}
            value={text}
            list="link-options"
            onChange={(e) => setText(e.target.value)}
          />
          <datalist id="link-options">
            {options.map((r) => (
              <option key={r.id} value={`${r.code} ${r.name}`} />
            ))}
          </datalist>
          <button type="submit" className="act-on">
            {w.link}
          </button>
        </form>
      )}
      {trouble("after") && (
        <div role="alert" className="why">
          {trouble("after")}
        </div>
      )}
      {note.after.length > 0 && (
        <>
          <h3 className="margin-head">{w.before}</h3>
          {note.after.map((k) => (
            <div key={k.id} className="note-line">
              <span className="note-name">
                {k.code} {k.name}
              </span>
              <span className="soft-text">
                {[k.type === "FS" ? "" : k.type, k.lag === "0d" ? "" : k.lag].join(" ")}
              </span>
              {open && <Cross label={w.cut(k.name)} act={() => remove(k.id)} />}
            </div>
          ))}
        </>
      )}
    </>
  );
}

const HELD: [string, string][] = [
  ["", words.plan.note.free],
  ["start_on_or_after", "start on or after"],
  ["start_on_or_before", "start on or before"],
  ["finish_on_or_after", "finish on or after"],
  ["finish_on_or_before", "finish on or before"],
  ["must_start_on", "must start on"],
  ["must_finish_on", "must finish on"],
  ["as_late_as_possible", "as late as possible"],
];

function Held({ info, ...part }: Part & { info?: PlanInfo }) {
  const { note, open } = part;
  const { set, trouble } = useWrite(part);
  const { row } = note;
  const kind = String(note.constraint?.type ?? "");
  const at = String(note.constraint?.at ?? "");
  const dated = kind !== "" && kind !== "as_late_as_possible";
  const pauses = (row.pauses ?? []).map(([from = "", to = "", reason = ""]) => ({ from, to, reason }));
  return (
    <>
      <h3 className="margin-head">{w.dates}</h3>
      <Pick
        label={w.held}
        value={kind}
        options={HELD}
        disabled={!open}
        write={(type) =>
          set(
            {
              constraint: type ? { type, at: at || (type.includes("finish") ? row.finish : row.start) } : "",
            },
            "constraint",
            type,
          )
        }
      />
      {dated && (
        <Entry
          label={w.on}
          value={spoken(at)}
          disabled={!open}
          write={(text) => set({ constraint: { type: kind, at: text } }, "constraint", text)}
          trouble={trouble("constraint")}
        />
      )}
      <Entry
        label={w.deadline}
        value={spoken(row.deadline ?? "")}
        disabled={!open}
        write={(text) => set({ deadline: text }, "deadline", text)}
        trouble={trouble("deadline")}
      />
      <Pick
        label={w.mode}
        value={row.mode ?? "driven"}
        options={[
          ["driven", w.driven],
          ["fixed", w.pinned],
        ]}
        disabled={!open}
        write={(mode) =>
          set(
            mode === "fixed" ? { mode, start: row.start, finish: row.finish } : { mode, start: "", finish: "" },
            "mode",
            mode,
          )
        }
      />
      {info && (
        <Pick
          label={w.calendar}
          value={row.calendar ?? ""}
          options={[
            ["", w.projectCalendar],
            ...info.calendars.filter((c) => c.code !== info.calendar).map((c): [string, string] => [c.code, c.name]),
          ]}
          disabled={!open}
          write={(calendar) => set({ calendar }, "calendar", calendar)}
        />
      )}
      <h3 className="margin-head">{w.pauses}</h3>
      {pauses.map((p) => (
        <div key={p.from} className="note-line">
          <span className="note-name" title={p.reason}>
            {format.day(p.from)} to {format.day(p.to)} {p.reason}
          </span>
          {open && (
            <Cross
              label={w.dropPause}
              act={() => set({ pauses: pauses.filter((x) => x.from !== p.from) }, "pauses", "")}
            />
          )}
        </div>
      ))}
      {open && <NewPause add={(p) => set({ pauses: [...pauses, p] }, "pauses", p.from)} />}
      {trouble("pauses") && (
        <div role="alert" className="why">
          {trouble("pauses")}
        </div>
      )}
    </>
  );
}

const spoken = (iso: string) => (iso ? format.fullDay(iso) : "");

function NewPause({ add }: { add: (pause: { from: string; to: string; reason: string }) => void }) {
  const [pause, setPause] = useState({ from: "", to: "", reason: "" });
  const field = (key: keyof typeof pause, label: string) => (
    <input
      aria-label={label}
      placeholder={label}
      value={pause[key]}
      onChange={(e) => setPause({ ...pause, [key]: e.target.value })}
    />
  );
  return (
    <form
      className="note-line note-pause"
      onSubmit={(e) => {
        e.preventDefault();
        if (!pause.from) return;
        add(pause);
        setPause({ from: "", to: "", reason: "" });
      }}
    >
      {field("from", w.pauseFrom)}
      {field("to", w.pauseTo)}
      {field("reason", w.pauseWhy)}
      <button type="submit" className="act-on">
        {w.pause}
      </button>
    </form>
  );
}

function People({ info, ...part }: Part & { info?: PlanInfo }) {
  const { note, open } = part;
  const { set, on, remove, run, trouble } = useWrite(part);
  const [who, setWho] = useState("");
  const there = new Set(note.assignments.map((a) => a.resource));
  return (
    <>
      <h3 className="margin-head">{w.people}</h3>
      {note.assignments.map((a) => (
        <div key={a.id} className="note-line">
          <span className="note-name">{a.name}</span>
          {a.kind === "material" ? (
            <Entry
              bare
              right
              label={w.quantity(a.name)}
              value={a.quantity == null ? "" : String(a.quantity)}
              placeholder={w.quantityHint}
              disabled={!open}
              write={(text) => on(a.id, { quantity: text }, "quantity", text)}
              trouble={trouble("quantity", a.id)}
            />
          ) : (
            <>
              <Entry
                bare
                right
                label={w.units(a.name)}
                value={String(a.units)}
                disabled={!open}
                write={(text) => on(a.id, { units: text }, "units", text)}
                trouble={trouble("units", a.id)}
              />
              <Entry
                bare
                right
                label={w.work(a.name)}
                value={a.work ?? ""}
                placeholder={w.workHint}
                disabled={!open}
                write={(text) => on(a.id, { work: text }, "work", text)}
                trouble={trouble("work", a.id)}
              />
            </>
          )}
          {open && <Cross label={w.takeOff(a.name)} act={() => remove(a.id)} />}
        </div>
      ))}
      {open && info && (
        <div className="note-line">
          <select aria-label={w.addPerson} value={who} onChange={(e) => setWho(e.target.value)}>
            <option value="">{w.addPerson}</option>
            {info.resources
              .filter((r) => !there.has(r.id))
              .map((r) => (
                <option key={r.id} value={r.id}>
                  {r.name}
                </option>
              ))}
          </select>
          <button
            type="button"
            className="act-on"
            disabled={!who}
            onClick={() => {
              run({ do: "add", list: "assignments", activity: note.row.id, resource: who }, "people");
              setWho("");
            }}
          >
            {w.assign}
          </button>
        </div>
      )}
      <Pick
        label={w.driver}
        value={note.row.driver ?? "duration"}
        options={[
          ["duration", w.byDuration],
          ["work", w.byWork],
        ]}
        disabled={!open}
        write={(driver) => set({ driver }, "driver", driver)}
      />
    </>
  );
}

function Costs(part: Part) {
  const { note, open } = part;
  const { on, remove, run, trouble } = useWrite(part);
  return (
    <>
      <h3 className="margin-head">{w.costs}</h3>
      {note.costs.map((c) => (
        <div key={c.id} className="note-cost">
          <div className="note-line">
            <Entry
              bare
              label={w.costName}
              value={c.name}
              disabled={!open}
              write={(name) => on(c.id, { name }, "name", name)}
              trouble={trouble("name", c.id)}
            />
            <Entry
              bare
              right
              label={w.amount(c.name)}
              value={c.amount}
              disabled={!open}
              write={(amount) => on(c.id, { amount }, "amount", amount)}
              trouble={trouble("amount", c.id)}
            />
            {open && <Cross label={w.dropCost(c.name)} act={() => remove(c.id)} />}
          </div>
          <div className="note-line">
            <Pick
              bare
              label={w.costKind(c.name)}
              value={c.kind}
              disabled={!open}
              options={[
                ["fixed", w.fixed],
                ["per_day", w.perDay],
              ]}
              write={(kind) => on(c.id, { kind }, "kind", kind)}
            />
            <Pick
              bare
              label={w.accrual(c.name)}
              value={c.accrual}
              disabled={!open}
              options={[
                ["uniform", w.spread],
                ["start", w.atStart],
                ["finish", w.atFinish],
              ]}
              write={(accrual) => on(c.id, { accrual }, "accrual", accrual)}
            />
            <label className="tick-box">
              <input
                type="checkbox"
                checked={c.in_budget}
                disabled={!open}
                onChange={(e) => on(c.id, { in_budget: e.target.checked }, "in_budget")}
              />
              {w.inBudget}
            </label>
          </div>
        </div>
      ))}
      <div className="pair dotted facts">
        <span>{w.total}</span>
        <span>{format.money(note.row.cost, true)}</span>
      </div>
      {open && (
        <button
          type="button"
          className="act-on"
          onClick={() =>
            run({ do: "add", list: "costs", activity: note.row.id, cells: { name: w.newCost, amount: "0" } }, "costs")
          }
        >
          {w.addCost}
        </button>
      )}
    </>
  );
}

function Earns(part: Part) {
  const { note, open, plan } = part;
  const { set, trouble } = useWrite(part);
  const method = note.value_method ?? { type: "percent" };
  const type = String(method.type);
  const change = (more: Record<string, unknown>) => set({ value_method: { ...method, ...more } }, "value_method", "");
  const begin = (kind: string) => {
    const extra: Record<string, Record<string, unknown>> = {
      start_share: { share: 0.5 },
      units: { planned: 1 },
      milestones: { weights: [{ name: "Done", weight: 1, at: 1 }] },
    };
    const first = [...(plan.sheet.data?.rows.values() ?? [])].find((r) => r.kind === "task" && r.id !== note.row.id);
    const base = kind === "apportioned" ? { base: first?.code } : {};
    set({ value_method: { type: kind, ...extra[kind], ...base } }, "value_method", kind);
  };
  const weights = (method.weights as { name: string; weight: number; at: number }[] | undefined) ?? [];
  return (
    <>
      <h3 className="margin-head">{w.earns}</h3>
      <Pick
        label={w.method}
        value={type}
        disabled={!open}
        options={VALUE_METHODS.map((m) => [m.replaceAll(" ", "_"), m])}
        write={begin}
      />
      {type === "start_share" && (
        <Entry
          label={w.share}
          value={String(Number(method.share) * 100)}
          disabled={!open}
          write={(t) => change({ share: Number(t.replace(",", ".")) / 100 })}
        />
      )}
      {type === "units" && (
        <Entry
          label={w.planned}
          value={String(method.planned ?? "")}
          disabled={!open}
          write={(t) => change({ planned: Number(t.replace(",", ".")) })}
        />
      )}
      {type === "apportioned" && (
        <Entry
          label={w.base}
          value={String(method.base ?? "")}
          disabled={!open}
          write={(base) => change({ base: base.trim() })}
        />
      )}
      {type === "milestones" && (
        <Entry
          long
          label={w.weights}
          value={weights.map((x) => `${x.name}; ${x.weight}; ${x.at * 100}`).join("\n")}
          disabled={!open}
          write={(text) =>
            change({
              weights: text
                .split("\n")
                .map((line) => line.split(";").map((x) => x.trim()))
                .filter(([name]) => name)
                .map(([name, weight, at]) => ({ name, weight: Number(weight || 1), at: Number(at || 100) / 100 })),
            })
          }
        />
      )}
      {trouble("value_method") && (
        <div role="alert" className="why">
          {trouble("value_method")}
        </div>
      )}
    </>
  );
}

function Cross({ label, act }: { label: string; act: () => void }) {
  return (
    <button type="button" className="quiet" aria-label={label} title={label} onClick={act}>
      ×
    </button>
  );
}

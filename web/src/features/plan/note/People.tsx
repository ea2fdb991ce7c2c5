import { useState } from "react";
import { Entry, Pick, words } from "../../../shared";
import { Button, Select } from "../../../shared/ui";
import { Cross } from "../Cross";
import type { PlanInfo } from "../usePlan";
import { type Part, useWrite } from "./part";

const w = words.plan.note;

/** Who and what works on it. */
export function People({ info, ...part }: Part & { info?: PlanInfo }) {
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
          <Select aria-label={w.addPerson} value={who} onChange={(e) => setWho(e.target.value)}>
            <option value="">{w.addPerson}</option>
            {info.resources
              .filter((r) => !there.has(r.id))
              .map((r) => (
                <option key={r.id} value={r.id}>
                  {r.name}
                </option>
              ))}
          </Select>
          <Button
            disabled={!who}
            onClick={() => {
              run({ do: "add", list: "assignments", activity: note.row.id, resource: who }, "people");
              setWho("");
            }}
          >
            {w.assign}
          </Button>
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

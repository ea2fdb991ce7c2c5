import { Fragment, useState } from "react";
import { Entry, Pick } from "../../../shared";
import { Button, MarginHead, NoteLine, NoteName, Select, Soft } from "../../../shared/ui";
import { words } from "../../../shared/words/plan";
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
      <MarginHead>{w.people}</MarginHead>
      {note.assignments.map((a) => (
        <Fragment key={a.id}>
          <NoteLine>
            <NoteName>{a.name}</NoteName>
            {a.kind === "material" ? (
              <Entry
                bare
                right
                number
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
                  number
                  label={w.units(a.name)}
                  value={String(a.units)}
                  disabled={!open}
                  write={(text) => on(a.id, { units: text }, "units", text)}
                  trouble={trouble("units", a.id)}
                />
                <Entry
                  bare
                  right
                  number
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
          </NoteLine>
          <NoteLine>
            <Pick
              bare
              label={w.actuals(a.name)}
              value={a.actuals}
              disabled={!open}
              options={words.plan.ofResource}
              write={(actuals) => on(a.id, { actuals }, "actuals", actuals)}
            />
          </NoteLine>
          {a.work && (note.row.driver ?? "duration") === "duration" && (
            <Soft as="div">
              {w.workUnused}{" "}
              {open && (
                <Button look="link" onClick={() => set({ driver: "work" }, "driver", "work")}>
                  {w.useWork}
                </Button>
              )}
            </Soft>
          )}
        </Fragment>
      ))}
      {open && info && (
        <NoteLine>
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
        </NoteLine>
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

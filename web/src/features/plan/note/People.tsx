import { Fragment, lazy, Suspense, useState } from "react";
import { Entry, Pick } from "../../../shared";
import { Button, MarginHead, NoteLine, NoteName, RowOf, Soft, Why } from "../../../shared/ui";
import { words } from "../../../shared/words/plan";
import { words as resourceWords } from "../../../shared/words/resources";
import { Cross } from "../Cross";
import type { PlanInfo } from "../usePlan";
import { type Part, useWrite } from "./part";

const w = words.plan.note;
const { resources } = resourceWords;
const ChoosePeople = lazy(() => import("../resources/ChoosePeople").then((m) => ({ default: m.ChoosePeople })));

/** Who and what works on it. */
export function People({ info, ...part }: Part & { info?: PlanInfo }) {
  const { note, open } = part;
  const { set, on, remove, trouble } = useWrite(part);
  const [choosing, setChoosing] = useState(false);
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
      {open && info && info.resources.length > 0 && (
        <RowOf>
          <Button onClick={() => setChoosing(true)}>{resources.choose.open}</Button>
          {trouble("people") && <Why role="alert">{trouble("people")}</Why>}
        </RowOf>
      )}
      {choosing && (
        <Suspense fallback={null}>
          <ChoosePeople rows={[note.row.id]} name={note.row.name} plan={part.plan} shut={() => setChoosing(false)} />
        </Suspense>
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

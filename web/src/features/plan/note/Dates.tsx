import { useState } from "react";
import { Entry, format, Pick } from "../../../shared";
import { Button, Input, MarginHead, NoteLine, NoteName, Why } from "../../../shared/ui";
import { words } from "../../../shared/words/plan";
import { Cross } from "../Cross";
import { useDraft } from "../useDraft";
import type { PlanInfo } from "../usePlan";
import { type Part, useWrite } from "./part";

const w = words.plan.note;

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

/** What holds its dates: a constraint, a deadline, pinned dates, its calendar, pauses. */
export function Dates({ info, ...part }: Part & { info?: PlanInfo }) {
  const { note, open } = part;
  const { set, trouble } = useWrite(part);
  const { row } = note;
  const kind = String(note.constraint?.type ?? "");
  const at = String(note.constraint?.at ?? "");
  const dated = kind !== "" && kind !== "as_late_as_possible";
  const [pauses, putPauses] = useDraft(
    (row.pauses ?? []).map(([from = "", to = "", reason = ""]) => ({ from, to, reason })),
    (next) => set({ pauses: next }, "pauses", next.at(-1)?.from ?? ""),
    trouble("pauses"),
  );
  return (
    <>
      <MarginHead>{w.dates}</MarginHead>
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
      <MarginHead>{w.pauses}</MarginHead>
      {pauses.map((p) => (
        <NoteLine key={p.from}>
          <NoteName data-tip={p.reason}>
            {words.margin.span(format.spokenDay(p.from), format.spokenDay(p.to))} {p.reason}
          </NoteName>
          {open && <Cross label={w.dropPause} act={() => putPauses(pauses.filter((x) => x.from !== p.from))} />}
        </NoteLine>
      ))}
      {open && <NewPause add={(p) => putPauses([...pauses, p])} />}
      {trouble("pauses") && <Why role="alert">{trouble("pauses")}</Why>}
    </>
  );
}

const spoken = (iso: string) => (iso ? format.fullDay(iso) : "");

function NewPause({ add }: { add: (pause: { from: string; to: string; reason: string }) => void }) {
  const [pause, setPause] = useState({ from: "", to: "", reason: "" });
  const field = (key: keyof typeof pause, label: string) => (
    <Input
      aria-label={label}
      placeholder={label}
      value={pause[key]}
      onChange={(e) => setPause({ ...pause, [key]: e.target.value })}
    />
  );
  return (
    <NoteLine
      as="form"
      kind="pause"
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
      <Button type="submit">{w.pause}</Button>
    </NoteLine>
  );
}

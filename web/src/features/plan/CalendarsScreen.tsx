import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Entry, Notice, usePlace, words } from "../../shared";
import { Button } from "../../shared/ui";
import { Sided } from "./Sided";
import { type Exception, Holidays, hoursOf, Special } from "./SpecialDays";
import { useDraft } from "./useDraft";
import { type PlanHandle, usePlan } from "./usePlan";
import { YearPage } from "./YearPage";

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
  const [at, setAt] = useState<string | null>(null);
  if (lists.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (lists.isError) return <Notice bad>{lists.error.message}</Notice>;
  const open = person.role !== "reader" && page.state === "wet";
  const calendars = lists.data.calendars as unknown as Calendar[];
  const chosen = calendars.find((c) => c.id === at) ?? calendars[0];
  return (
    <Sided
      title={w.title}
      plan={plan}
      open={open}
      items={calendars.map((c) => ({
        id: c.id,
        name: c.name,
        beside: <span className="soft-text"> {w.used(c.used)}</span>,
      }))}
      at={chosen?.id}
      choose={setAt}
      addLabel={w.add}
      add={(name) => ({ do: "add", list: "calendars", cells: { name, week: chosen?.week ?? {} } })}
    >
      {chosen && <Editor key={chosen.id} calendar={chosen} lists={lists.data} plan={plan} open={open} />}
    </Sided>
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
  const [exceptions, put] = useDraft<Exception[]>(
    calendar.exceptions ?? [],
    (next) => set({ exceptions: next }, "exceptions"),
    trouble("exceptions"),
  );
  const typed = useRef({ day: "", text: "" });
  const [week, putWeek] = useDraft<Record<string, string[] | string>>(
    calendar.week,
    (next) => set({ week: next }, `week.${typed.current.day}`, typed.current.text),
    trouble(`week.${typed.current.day}`),
  );
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
              value={hoursOf(week[d])}
              placeholder={w.off}
              disabled={!open}
              write={(text) => {
                typed.current = { day: d, text };
                putWeek({ ...week, [d]: text });
              }}
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
        <Button look="quiet" aria-label={w.before} onClick={() => setYear(year - 1)}>
          ‹
        </Button>
        {year}
        <Button look="quiet" aria-label={w.after} onClick={() => setYear(year + 1)}>
          ›
        </Button>
      </h2>
      <YearPage
        calendar={calendar}
        year={year}
        turn={
          open
            ? (day, known) =>
                put(
                  known
                    ? exceptions.filter((e) => e.from !== known.from || e.to !== known.to)
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
        <Button onClick={() => plan.change([{ do: "remove", rows: [id] }])}>{w.remove}</Button>
      )}
    </div>
  );
}

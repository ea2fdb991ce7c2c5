import { Grid } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, Entry, firstDay, keys, Notice, usePlace } from "../../shared";
import { Button, FactsGrid, PartTitle, ScrollBox, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import { Sided } from "./Sided";
import { asExceptions, type Exception, Holidays, hoursOf, Special } from "./SpecialDays";
import { useDraft } from "./useDraft";
import { type PlanHandle, usePlan } from "./usePlan";
import { useWholeList } from "./useWholeList";
import { YearPage } from "./YearPage";

export type Calendar = Schemas["CalendarOut"];
const w = words.calendars;
export const DAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const;
/** The days of a week, from the one on that it begins with. */
export const daysInOrder = () => {
  const at = (firstDay() + 6) % 7;
  return [...DAYS.slice(at), ...DAYS.slice(0, at)];
};

export const useLists = (project: string) =>
  useQuery({
    queryKey: keys.project(project).lists,
    queryFn: () => take(client.GET("/api/projects/{project}/plan/lists", { params: { path: { project } } })),
  });

/** The calendars: week patterns, special days, holidays, seen on a year page, and who uses each. */
export function CalendarsScreen() {
  const { project, page, person } = usePlace();
  const plan = usePlan(project, "calendars", keys.project(project).lists);
  const lists = useLists(project);
  const [at, setAt] = useState<string | null>(null);
  if (lists.isPending) return <Bones />;
  if (!lists.data) return <Notice bad>{lists.error?.message}</Notice>;
  const open = person.role !== "reader" && page.state === "wet";
  const calendars = lists.data.calendars;
  const chosen = calendars.find((c) => c.id === at) ?? calendars[0];
  return (
    <Sided
      title={w.title}
      plan={plan}
      open={open}
      items={calendars.map((c) => ({
        id: c.id,
        name: c.name,
        beside: <Soft> {w.used(c.used)}</Soft>,
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
  const special = useWholeList<Exception>({ id, list: calendar.exceptions ?? [], plan, ...asExceptions });
  const { items: exceptions, put } = special;
  const typed = useRef({ day: "", text: "" });
  const [week, putWeek] = useDraft<Record<string, string[] | string>>(
    calendar.week,
    (next) => set({ week: next }, `week.${typed.current.day}`, typed.current.text),
    trouble(`week.${typed.current.day}`),
  );
  return (
    <ScrollBox>
      <FactsGrid>
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
      </FactsGrid>
      <PartTitle>{w.week}</PartTitle>
      <Grid templateColumns="repeat(auto-fill, minmax(196px, 1fr))" gap="6" maxW="860px">
        {daysInOrder().map((d) => (
          <div key={d}>
            <Soft>{w.days[d]}</Soft>
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
      </Grid>
      {trouble("week") && (
        <Why role="alert" as="p">
          {trouble("week")}
        </Why>
      )}
      <FactsGrid three>
        {(["hours_per_day", "hours_per_week", "hours_per_month"] as const).map((key) => (
          <Entry
            key={key}
            number
            label={w[key]}
            value={String(calendar[key] ?? { hours_per_day: 8, hours_per_week: 40, hours_per_month: 160 }[key])}
            disabled={!open}
            write={(text) => set({ [key]: text }, key, text)}
            trouble={trouble(key)}
          />
        ))}
      </FactsGrid>
      <PartTitle>
        {w.year}
        <Button look="quiet" aria-label={w.before} onClick={() => setYear(year - 1)}>
          ‹
        </Button>
        {year}
        <Button look="quiet" aria-label={w.after} onClick={() => setYear(year + 1)}>
          ›
        </Button>
      </PartTitle>
      <YearPage
        calendar={calendar}
        year={year}
        toggle={
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
      <Special sheet={special.sheet} open={open} of={calendar.name} />
      {special.why && (
        <Why role="alert" as="p">
          {special.why}
        </Why>
      )}
      <PartTitle>{w.who}</PartTitle>
      <p>{calendar.users.length ? calendar.users.join(", ") : w.nobody}</p>
      {open && calendar.used === 0 && (
        <Button onClick={() => plan.change([{ do: "remove", rows: [id] }])}>{w.remove}</Button>
      )}
    </ScrollBox>
  );
}

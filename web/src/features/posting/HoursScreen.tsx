import { useCallback, useMemo, useState } from "react";
import type { Schemas } from "../../api";
import { asTyped, Bones, format, groupBy, Notice, Sign, useAddressed, usePlace, useSought } from "../../shared";
import { Ask, CellText, ReadSheet, type SheetColumn, type SheetLine } from "../../shared/sheet";
import { Button, Input, RowOf, Select, Soft, Why } from "../../shared/ui";
import { words as correcting } from "../../shared/words/corrections";
import { words } from "../../shared/words/hours";
import { Correct, type Corrected } from "./Correct";
import { Corrections } from "./Corrections";
import { PageHead } from "./PageHead";
import { useCorrections } from "./useCorrections";
import { type HoursField, type Line, useDriver, useHours } from "./useHours";
import { usePosting } from "./usePosting";
import { weekOf } from "./week";

const w = words.hours;
type Column = SheetColumn<Line>;
const VIEW = { by: "activity", all: "" };
const NONE: Schemas["HoursSum"][] = [];
const codeOf = (row: Line) => row.id;
const nameOf = (row: Line) => `${row.name}, ${row.person}`;
const hours = (n: number) => (n ? format.tenth(n) : "");

const entry = (field: HoursField, width: number, more: Partial<Column> = {}): Column => ({
  key: field,
  title: w.columns[field],
  width,
  writes: field,
  text: (r) => (r[field].endsWith("min") ? format.span(r[field]) : asTyped(r[field])),
  typed: (r) => r[field],
  kind: "number",
  look: () => "entry",
  ...more,
});

const columnsBy = (by: string): Column[] => [
  {
    key: "name",
    title: by === "person" ? words.columns.activity : w.columns.person,
    width: 150,
    grow: true,
    left: true,
    pin: "start",
    look: () => "name two",
    text: (r) => (by === "person" ? `${r.activity} ${r.name}` : r.person),
    draw: (r) => (
      <CellText>
        {by === "person" ? `${r.activity} ${r.name}` : r.person}
        <Sign code={by === "person" ? r.activity : r.resource} />
      </CellText>
    ),
    hint: (r) => (r.assigned ? nameOf(r) : `${nameOf(r)}: ${w.unassigned}`),
  },
  { key: "planned", title: w.columns.planned, width: 66, look: () => "soft", text: (r) => hours(r.planned ?? 0) },
  { key: "before", title: w.columns.before, width: 66, look: () => "soft", text: (r) => hours(r.before + r.corrected) },
  entry("worked", 76, { look: () => "entry first-entry" }),
  entry("overtime", 76),
  entry("to_go", 84, { draw: (r) => (r.asks ? <Ask>{w.ask}</Ask> : null) }),
  { key: "left", title: w.columns.left, width: 74, look: () => "soft", text: (r) => hours(r.remaining) },
  { key: "total", title: w.columns.total, width: 66, text: (r) => hours(r.total) },
  {
    key: "change",
    title: w.columns.change,
    width: 80,
    text: (r) => (r.change ? `${r.change > 0 ? "+" : ""}${format.tenth(r.change)}` : ""),
    look: (r) => (r.change > 0 ? "late" : r.change < 0 ? "early" : undefined),
  },
  {
    key: "moves",
    title: w.columns.finish,
    width: 66,
    text: (r) => format.day(r.finish),
    hint: (r) => (r.driver === "work" ? w.moves : w.fixed),
    look: (r) => (r.driver === "work" ? undefined : "soft"),
  },
];

/** Rows under a heading for each activity, or each person, with the hours of both. */
function linesOf(rows: Line[], by: string, all: boolean, totals: Schemas["HoursSum"][]): SheetLine<Line>[] {
  const groups = groupBy(rows, (r) => (by === "person" ? r.resource : r.activity));
  return [...groups].flatMap(([code, own]): SheetLine<Line>[] => {
    const first = own[0];
    if (!first) return [];
    const sum = totals.find((t) => t.by === by && t.code === code);
    const [here = 0, left = 0] = all ? [sum?.all_here, sum?.all_remaining] : [sum?.here, sum?.remaining];
    const name = by === "person" ? first.person : `${first.activity} ${first.name}`;
    return [
      { kind: "group", id: `group.${code}`, name: w.sum(name, format.tenth(here), format.tenth(left)), depth: 1 },
      ...own.map((row): SheetLine<Line> => ({ kind: "row", id: row.id, row, depth: 0, parts: 0 })),
    ];
  });
}

/** Hours of the page: what each person worked, overtime, and what is still to go; by activity or by person. */
export function HoursScreen() {
  const { project, page, mayPost, tell } = usePlace();
  const posting = usePosting();
  const { sheet, write, troubles, waiting, drop, refused } = useHours();
  const [{ by, all }, show] = useAddressed(`${project}/hours`, VIEW);
  const [begun, setBegun] = useState<Line[]>([]);
  const [kept] = useState(() => new Set<string>());
  const rows = sheet.data?.rows;
  const totals = sheet.data?.totals;
  const lines = useMemo(() => {
    const known = new Set(rows?.map((r) => r.id));
    const shown = (rows ?? []).filter((r) => all === "yes" || r.due || kept.has(r.id));
    return linesOf([...shown, ...begun.filter((r) => !known.has(r.id))], by, all === "yes", totals ?? NONE);
  }, [rows, totals, begun, all, by, kept]);
  const corrections = useCorrections();
  const [corrected, correct] = useState<Corrected | null>(null);
  const sought = useSought();
  const found = sought && lines.find((l) => l.kind === "row" && l.row.activity === sought.code)?.id;
  const seek = useMemo(() => (found && sought ? { code: found, key: sought.key } : null), [sought, found]);
  const columns = useMemo(() => columnsBy(by), [by]);
  const can = useCallback((_: Line, c: Column) => mayPost && c.writes !== undefined, [mayPost]);
  // On a heading the margin stays with the row before.
  const [at, setAt] = useState("");
  const stand = useCallback(
    (row: Line | null) => {
      setAt(row?.id ?? "");
      if (row) tell({ about: "activity", code: row.activity });
    },
    [tell],
  );
  if (posting.sheet.isPending || sheet.isPending) return <Bones />;
  if (!posting.sheet.data) return <Notice bad>{posting.sheet.error?.message}</Notice>;
  if (!sheet.data) return <Notice bad>{sheet.error?.message}</Notice>;
  const { people = [], activities = [] } = sheet.data;
  const here = rows?.find((r) => r.id === at);
  /** A week that names its activities goes to the rows of the person that the cursor is on, whatever their order. */
  const paste = (text: string, here: Line) => {
    const week = weekOf(text);
    if (!week) return false;
    const cells = week.map(({ code, field, text: said }) => {
      const own = rows?.find((r) => r.resource === here.resource && r.activity.toLowerCase() === code.toLowerCase());
      const known = activities.find(([c]) => c?.toLowerCase() === code.toLowerCase())?.[0] ?? code;
      const row = own ?? blank(known, here.resource, nameIn(activities, known), here.person);
      kept.add(row.id);
      return { row, line: row.id, column: columns.find((c) => c.key === field) ?? columns[3], text: said };
    });
    void write(cells.flatMap((c) => (c.column ? [{ ...c, column: c.column }] : [])));
    return true;
  };
  const add = (activity: string, resource: string) => {
    const row = blank(activity, resource, nameIn(activities, activity), nameIn(people, resource));
    kept.add(row.id);
    setBegun((now) => [...now.filter((r) => r.id !== row.id), row]);
  };
  return (
    <>
      <PageHead posting={posting} sheet={posting.sheet.data}>
        <RowOf as="fieldset" aria-label={w.by} mt="0">
          {(["activity", "person"] as const).map((b) => (
            <Button key={b} aria-pressed={by === b} onClick={() => show({ by: b })}>
              {w.bys[b]}
            </Button>
          ))}
        </RowOf>
        <Button aria-pressed={all === "yes"} onClick={() => show({ all: all ? "" : "yes" })}>
          {words.posting.all}
        </Button>
      </PageHead>
      {corrections.may && corrected && (
        <Correct
          key={`${corrected.on}.${corrected.resource}`}
          page={page.code}
          of={corrected}
          corrections={corrections}
          shut={() => correct(null)}
        />
      )}
      {corrections.may && !corrected && (
        <Soft pt="0" px="14" pb="6">
          {correcting.corrections.hint}
        </Soft>
      )}
      {(refused ?? posting.refused) && <Notice bad>{refused ?? posting.refused}</Notice>}
      {lines.length === 0 ? (
        <Notice>{w.none}</Notice>
      ) : (
        <ReadSheet
          label={w.label(format.fullDay(sheet.data.status))}
          lines={lines}
          columns={columns}
          codeOf={codeOf}
          nameOf={nameOf}
          first="worked"
          seek={seek}
          paste={mayPost ? paste : undefined}
          open={corrections.may ? (row) => correct(correctedOf(row)) : undefined}
          can={can}
          write={(cells, mine) => {
            for (const { row } of cells) kept.add(row.id);
            void write(cells, mine);
          }}
          troubles={troubles}
          waiting={waiting}
          drop={drop}
          stand={stand}
        />
      )}
      <Corrections of={corrections} lens="hours" />
      {mayPost && here?.driver === "duration" && <Driver line={here} />}
      {mayPost && <Another activities={activities} people={people} add={add} />}
    </>
  );
}

/** A row of a dry page as it can be corrected. */
const correctedOf = (r: Line): Corrected => {
  const [worked, overtime] = [format.span(r.worked) || "0 h", format.span(r.overtime) || "0 h"];
  return {
    on: r.activity,
    resource: r.resource,
    what: `${r.activity} ${r.name}, ${r.person}`,
    says: `${/[a-z]/.test(worked) ? worked : `${worked} h`}, overtime ${/[a-z]/.test(overtime) ? overtime : `${overtime} h`}`,
    values: { worked: r.worked || "0", overtime: r.overtime || "0" },
  };
};

const nameIn = (list: string[][], code: string) => list.find(([c]) => c === code)?.[1] ?? code;

/** A row for somebody who has nothing to do with the activity yet: hours typed in it make it. */
const blank = (activity: string, resource: string, name: string, person: string): Line => ({
  id: `${activity}¦${resource}`,
  activity,
  name,
  wbs: null,
  resource,
  person,
  assigned: false,
  due: true,
  state: "",
  planned: null,
  before: 0,
  worked: "",
  overtime: "",
  to_go: "",
  corrected: 0,
  remaining: 0,
  total: 0,
  budgeted: 0,
  change: 0,
  asks: false,
  driver: "",
  finish: "",
  row: "",
});

/** Where the remaining hours of an activity do not move its finish: says so, and offers that they do. */
function Driver({ line }: { line: Line }) {
  const { change, refused } = useDriver();
  return (
    <RowOf pt="6" px="14" pb="0" mt="0" flexWrap="nowrap">
      <Soft minW="0">{w.fixedHere(line.activity)}</Soft>
      <Button onClick={() => void change(line)}>{w.letWork}</Button>
      {refused && <Why role="alert">{refused}</Why>}
    </RowOf>
  );
}

interface AnotherProps {
  activities: string[][];
  people: string[][];
  add: (activity: string, resource: string) => void;
}

/** Hours of somebody who is not assigned. */
function Another({ activities, people, add }: AnotherProps) {
  const [text, setText] = useState("");
  const [person, setPerson] = useState("");
  const code = text.trim().split(" ")[0] ?? "";
  const found = activities.find(([c]) => c?.toLowerCase() === code.toLowerCase())?.[0];
  return (
    <RowOf
      as="form"
      py="8"
      px="14"
      aria-label={w.another}
      onSubmit={(event) => {
        event.preventDefault();
        if (!found || !person) return;
        add(found, person);
        setText("");
      }}
    >
      <Input
        aria-label={w.activity}
        placeholder={w.activity}
        list="hours-activities"
        width="200px"
        value={text}
        aria-invalid={(code !== "" && !found) || undefined}
        onChange={(e) => setText(e.target.value)}
      />
      <datalist id="hours-activities">
        {activities.map(([c, name]) => (
          <option key={c} value={`${c} ${name}`} />
        ))}
      </datalist>
      <Select aria-label={w.columns.person} maxW="200px" value={person} onChange={(e) => setPerson(e.target.value)}>
        <option value="">{w.columns.person}</option>
        {people.map(([c, name]) => (
          <option key={c} value={c}>
            {name}
          </option>
        ))}
      </Select>
      <Button type="submit" disabled={!found || !person}>
        {w.another}
      </Button>
    </RowOf>
  );
}

import { lazy, Suspense, useCallback, useMemo, useState } from "react";
import type { Schemas } from "../../api";
import { Bones, format, Notice, useAddressed, usePlace, useSought } from "../../shared";
import {
  arranged,
  byKey,
  isFound,
  isPlain,
  LOOK,
  type LookColumn,
  LookParts,
  lookOf,
  nextSort,
  useGround,
} from "../../shared/look";
import { lineOf, ReadSheet, type SheetLine } from "../../shared/sheet";
import { Button, Input, RowOf, Select, Soft, Why } from "../../shared/ui";
import { words as correcting } from "../../shared/words/corrections";
import { words } from "../../shared/words/hours";
import { Correct, type Corrected } from "./Correct";
import { Corrections } from "./Corrections";
import { type Column, codeOf, columnsBy, nameOf } from "./hoursColumns";
import { PageHead } from "./PageHead";
import { useCorrections } from "./useCorrections";
import { type Line, useDriver, useHours } from "./useHours";
import { usePosting } from "./usePosting";
import { type Placed, placed, weekOf } from "./week";

const PasteWeek = lazy(() => import("./PasteWeek").then((m) => ({ default: m.PasteWeek })));

const w = words.hours;
const VIEW = { by: "activity", show: "due", days: "", ...LOOK };
const NONE: Schemas["HoursSum"][] = [];
/** What rows stand in groups of: each activity, or each person. */
const GROUPS: LookColumn<Line>[] = [
  { key: "activity", title: words.columns.activity, text: (r) => `${r.activity} ${r.name}`, inOrder: true },
  { key: "person", title: w.columns.person, text: (r) => r.person, inOrder: true },
];

/** Lines with the hours of each group in its heading. */
const summed = (lines: SheetLine<Line>[], by: string, all: boolean, totals: Schemas["HoursSum"][]): SheetLine<Line>[] =>
  lines.map((line, i) => {
    const first = lines[i + 1];
    if (line.kind !== "group" || first?.kind !== "row") return line;
    const code = by === "person" ? first.row.resource : first.row.activity;
    const sum = totals.find((t) => t.by === by && t.code === code);
    const [here = 0, left = 0] = all ? [sum?.all_here, sum?.all_remaining] : [sum?.here, sum?.remaining];
    return {
      kind: "group",
      id: `group.${code}`,
      name: w.sum(line.name, format.tenth(here), format.tenth(left)),
      depth: 1,
    };
  });

/** Hours of the page: what each person worked, overtime, and what is still to go; by activity or by person. */
export function HoursScreen() {
  const { project, page, mayPost, tell } = usePlace();
  const posting = usePosting();
  const { sheet, write, troubles, waiting, drop, refused } = useHours();
  const [view, show] = useAddressed(`${project}/hours`, VIEW);
  const by = view.by === "person" ? "person" : "activity";
  const all = view.show === "all";
  const look = useMemo(() => lookOf(view), [view]);
  const ground = useGround();
  const [begun, setBegun] = useState<Line[]>([]);
  const [kept] = useState(() => new Set<string>());
  const [week, setWeek] = useState<Placed[] | null>(null);
  const rows = sheet.data?.rows;
  const totals = sheet.data?.totals;
  const dates = sheet.data?.days;
  const columns = useMemo(() => columnsBy(by, view.days && dates ? dates : []), [by, view.days, dates]);
  const held = useMemo(() => byKey([...GROUPS, ...columns.filter((c) => c.key !== "name")]), [columns]);
  const lines = useMemo(() => {
    const known = new Set(rows?.map((r) => r.id));
    const shown = (rows ?? []).filter((r) => all || r.due || kept.has(r.id));
    const found = [...shown, ...begun.filter((r) => !known.has(r.id))].filter((r) =>
      isFound(look, `${r.activity} ${r.name} ${r.person}`),
    );
    return summed(
      arranged(found, { ...look, group: by }, held, ground, (row) => lineOf(row.id, row)),
      by,
      all,
      totals ?? NONE,
    );
  }, [rows, totals, begun, all, by, kept, look, held, ground]);
  const corrections = useCorrections();
  const [corrected, correct] = useState<Corrected | null>(null);
  const sought = useSought();
  const found = sought && lines.find((l) => l.kind === "row" && l.row.activity === sought.code)?.id;
  const seek = useMemo(() => (found && sought ? { code: found, key: sought.key } : null), [sought, found]);
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
  const rowOf = (activity: string, resource: string) =>
    rows?.find((r) => r.resource === resource && r.activity === activity) ??
    blank(activity, resource, nameIn(activities, activity), nameIn(people, resource));
  /** A week that names its activities goes to their rows, whatever their order: of the people that it names, else of the one here. */
  const paste = (text: string, here: Line) => {
    const week = weekOf(text);
    if (week) setWeek(placed(week, here.resource, activities, people, rowOf));
    return week !== null;
  };
  const post = (lines: Placed[]) => {
    const cells = lines.flatMap(({ row, hours: own }) => {
      if (row) kept.add(row.id);
      return own.flatMap(({ field, text }) => {
        const column = columns.find((c) => c.key === field);
        return row && column ? [{ row, line: row.id, column, text }] : [];
      });
    });
    void write(cells);
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
          {dates && dates.length > 0 && (
            <Button aria-pressed={view.days !== ""} onClick={() => show({ days: view.days ? "" : "1" })}>
              {w.byDay}
            </Button>
          )}
        </RowOf>
        <LookParts
          view={view}
          look={show}
          columns={held}
          on={ground}
          rows={() => rows ?? []}
          first="person"
          find={w.find}
          shows={w.shows}
        />
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
        <Notice>{isPlain(look) ? w.none : w.noneShown}</Notice>
      ) : (
        <ReadSheet
          label={w.label(format.fullDay(sheet.data.status))}
          lines={lines}
          columns={columns}
          codeOf={codeOf}
          nameOf={nameOf}
          first="worked"
          seek={seek}
          sort={view.sort}
          onSort={(key) => show({ sort: nextSort(view.sort, key) })}
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
      {week && (
        <Suspense fallback={null}>
          <PasteWeek lines={week} post={post} shut={() => setWeek(null)} />
        </Suspense>
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
  reckoned: 0,
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

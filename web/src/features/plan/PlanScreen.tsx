import { lazy, type SetStateAction, Suspense, useCallback, useMemo, useRef, useState } from "react";
import {
  Bones,
  format,
  Notice,
  oneOf,
  useAddressed,
  useAtOnce,
  useKept,
  usePlace,
  useSought,
  useStanding,
  useUndo,
  useWhenever,
} from "../../shared";
import { byKey, nextSort, useFigures } from "../../shared/look";
import { axisOf, DriftPattern, type Scale, TimeHead, TimeRules } from "../../shared/time";
import { Act, Button, InOption, RoomHead, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import { Bulk } from "./Bulk";
import { allColumns, FIGURES, figureColumns, SETS, type Valued } from "./columns";
import { groundOf } from "./conditions";
import { OptionHead } from "./OptionHead";
import { PlanGrid } from "./PlanGrid";
import { PlanTabs } from "./PlanTabs";
import { sayEffect, Ties, TimeRow, WhatItMoves } from "./PlanTime";
import { PeopleStrip } from "./resources/PeopleStrip";
import type { Row } from "./row";
import { type Draft, isPlain, type Lens, type Line, lensOf, linesOf, PLAIN, sayLens, VIEW, withDraft } from "./tree";
import { Undated, undatedOf } from "./Undated";
import { useDrag } from "./useDrag";
import { useHands } from "./useHands";
import { type Plan, usePlan } from "./usePlan";
import { ViewMenu } from "./ViewMenu";

const PasteDialog = lazy(() => import("./PasteDialog").then((m) => ({ default: m.PasteDialog })));
const Backward = lazy(() => import("./Backward").then((m) => ({ default: m.Backward })));
const CopyFrom = lazy(() => import("./CopyFrom").then((m) => ({ default: m.CopyFrom })));
const ChoosePeople = lazy(() => import("./resources/ChoosePeople").then((m) => ({ default: m.ChoosePeople })));
const NONE: string[] = [];
const SCALES: [Scale, ...Scale[]] = ["week", "day", "month"];
const FIRST = (SETS.usual ?? []).map((key) => ({ key }));
const NO_FIGURES: Valued = new Map();
/** What was looked for and gone to: who comes back later comes to where they stood. */
const GONE_TO = new WeakSet<object>();

type View = typeof VIEW & { time: string };

/** The plan: one sheet of elements and activities, with the timeline beside it. */
export function PlanScreen() {
  const { project } = usePlace();
  const plan = usePlan(project);
  if (plan.sheet.isPending) return <Bones />;
  if (!plan.sheet.data) return <Notice bad>{plan.sheet.error?.message}</Notice>;
  const sheet = <Sheet key={`${project}.${plan.option}`} plan={plan} data={plan.sheet.data} />;
  if (plan.option === null) return sheet;
  return (
    <InOption data-option={plan.option}>
      <OptionHead option={plan.option} />
      {sheet}
    </InOption>
  );
}

function Sheet({ plan, data }: { plan: ReturnType<typeof usePlan>; data: Plan }) {
  const { project, page, person, tell } = usePlace();
  const sought = useSought();
  const open = person.role !== "reader" && page.state === "wet";
  const { info } = data;
  const [shut, setShut] = useKept<string[]>(`${project}.plan.folded`, NONE);
  const folded = useMemo(() => new Set(shut), [shut]);
  const setFolded = useCallback(
    (next: (now: Set<string>) => Set<string>) => setShut((now) => [...next(new Set(now))]),
    [setShut],
  );
  const [time, keepTime] = useKept(`${project}.plan.time`, "none");
  const [view, setView] = useAddressed<View>(`${project}/plan`, { ...VIEW, time });
  const [{ at }, stand] = useStanding(`${project}/plan`);
  const lens = useMemo(() => lensOf(view), [view]);
  const setLens = useCallback(
    (next: SetStateAction<Lens>) => setView(sayLens(typeof next === "function" ? next(lens) : next)),
    [setView, lens],
  );
  const [draft, setDraft] = useState<Draft | null>(null);
  const [chosen, setChosen] = useKept<{ key: string; width?: number }[]>(`${project}.plan.columns`, FIRST);
  /** What lies above the sheet to be dragged onto it, and what is asked over it. */
  const [strip, setStrip] = useState<"" | "people" | "undated">("");
  const [asks, ask] = useState<"" | "backward" | "copy">("");
  const [split, setSplit] = useKept(`${project}.plan.split`, 0);
  const beside = view.time !== "none";
  const scale = oneOf(SCALES, view.time);
  const { fields, calendars, calendar, start, status, hours_per_day, responsible } = info;
  const asked = useMemo(() => FIGURES.filter((key) => chosen.some((c) => c.key === key)), [chosen]);
  const value = useFigures(asked, asked.length > 0 && plan.option === null);
  const valued = useMemo(
    (): Valued => (value.data ? new Map(value.data.rows.map((r) => [`${r.kind}.${r.code}`, r.figures])) : NO_FIGURES),
    [value.data],
  );
  const offered = useMemo(
    () => [
      ...allColumns({ fields, calendars, calendar, hours_per_day, responsible }),
      ...(plan.option === null ? figureColumns(valued) : []),
    ],
    [fields, calendars, calendar, hours_per_day, responsible, valued, plan.option],
  );
  const codes = useMemo(() => codesWidth(data.rows.values()), [data.rows]);
  const columns = useMemo(
    () =>
      chosen.flatMap(({ key, width }) => {
        const found = offered.find((c) => c.key === key);
        return found ? [{ ...found, width: width ?? (key === "code" ? codes : found.width) }] : [];
      }),
    [chosen, offered, codes],
  );
  const rows = useMemo(() => {
    if (!plan.pending.length) return data.rows;
    return new Map([...data.rows, ...plan.pending.map((p): [string, Row] => [p.id, p])]);
  }, [data.rows, plan.pending]);
  const ground = useMemo(() => groundOf({ start, status, hours_per_day }), [start, status, hours_per_day]);
  const held = useMemo(() => byKey(offered), [offered]);
  const seen = useRef(data.rows);
  seen.current = data.rows;
  const found = useCallback(() => [...seen.current.values()], []);
  const base = useMemo(() => linesOf(rows.values(), folded, lens, held, ground), [rows, folded, lens, held, ground]);
  const tree = isPlain(lens);
  const lines = useMemo(() => withDraft(base, draft), [base, draft]);
  const fold = (id: string, shut: boolean) =>
    setFolded((now) => {
      const next = new Set(now);
      if (shut && !now.has(id)) next.add(id);
      else next.delete(id);
      return next;
    });
  const foldAll = useCallback(
    (shut: boolean) =>
      setFolded(() =>
        shut ? new Set([...rows.values()].filter((r) => r.kind === "wbs").map((r) => r.id)) : new Set(),
      ),
    [rows, setFolded],
  );
  const resize = useCallback(
    (key: string, width: number) => setChosen((now) => now.map((c) => (c.key === key ? { ...c, width } : c))),
    [setChosen],
  );
  const onSort = useCallback((key: string) => setView({ sort: nextSort(view.sort, key) }), [setView, view.sort]);
  const setTime = useCallback(
    (next: string) => {
      keepTime(next);
      setView({ time: next });
    },
    [keepTime, setView],
  );
  const hands = useHands({ lines, columns, plan, rows, open, tree, draft, setDraft, fold, onSort, resize });
  const latest = useRef(hands);
  latest.current = hands;
  const add = useCallback(() => latest.current.startDraft(latest.current.here), []);
  const more = useMemo(
    () =>
      plan.option === null
        ? [
            { word: words.plan.strip, act: () => setStrip("people") },
            { word: words.plan.undated.open, act: () => setStrip("undated") },
            { word: words.plan.backward.open, act: () => ask("backward") },
            { word: words.plan.copy.open, act: () => ask("copy") },
          ]
        : [],
    [plan.option],
  );
  const [from, to] = useMemo(() => spanOf(data), [data]);
  const axis = useMemo(() => axisOf(from, to, scale), [from, to, scale]);
  const hold = useDrag(plan, axis, open);

  // The row that the address says, once; what was looked for comes before it.
  const begin = useRef(at);
  const looked = useRef(false);
  useWhenever([], () => {
    if (looked.current) return;
    const found = [...rows.values()].find((r) => r.code === begin.current);
    if (found) hands.goTo(found.id);
  });
  // The margin follows the cursor.
  const id = hands.here?.id ?? "";
  const code = hands.here && hands.here.kind !== "wbs" && !hands.here.pending ? hands.here.code : "";
  useWhenever([id, code], () => {
    if (hands.here?.code) stand({ at: hands.here.code });
    if (code) tell({ about: "row", id, code });
    else if (hands.here?.kind === "wbs") tell({ about: "element", id, code: hands.here.code });
    else tell((now) => (now?.about === "row" || now?.about === "element" ? null : now));
  });
  // Before the next key, which goes on from there.
  useAtOnce([sought, columns], () => {
    if (!sought || GONE_TO.has(sought)) return;
    const { key } = sought;
    // The column that is gone to is put on the sheet where it is not there.
    if (key && offered.some((c) => c.key === key) && !columns.some((c) => c.key === key)) {
      setChosen((now) => [...now, { key }]);
      return;
    }
    GONE_TO.add(sought);
    looked.current = true;
    const found = [...rows.values()].find((r) => r.code === sought.code && r.kind !== "wbs");
    if (!found) return;
    setFolded(() => new Set());
    setLens(PLAIN);
    hands.goTo(found.id, sought.key);
  });
  useUndo({ undo: () => open && plan.undo(), redo: () => open && plan.redo() });

  const activities = data.rows.size;
  const dragging = hold.drag;
  const bar = (line: Line, top: number) =>
    line.kind === "row" ? (
      <TimeRow
        key={line.id}
        row={line.row}
        top={top}
        axis={axis}
        open={open}
        drag={dragging?.row.id === line.id ? dragging : null}
        change={hold.seen.answer?.changes[line.id]}
        down={hold.down}
      />
    ) : null;
  return (
    <>
      <RoomHead>
        <h1>{plan.option === null ? words.plan.title : words.plan.option.title}</h1>
        <Told role="status">
          {plan.refused ? (
            <Act role="alert">{plan.refused}</Act>
          ) : plan.effect ? (
            [sayEffect(plan.effect), plan.noted].filter(Boolean).join(" ")
          ) : (
            words.plan.counts(activities, format.fullDay(info.finish))
          )}
        </Told>
        <Space />
        {open && (
          <>
            <Button onClick={plan.undo} data-tip="Ctrl+Z">
              {words.sheet.undo}
            </Button>
            <Button onClick={plan.redo} data-tip="Ctrl+Shift+Z">
              {words.sheet.redo}
            </Button>
          </>
        )}
      </RoomHead>
      {plan.option === null && <PlanTabs />}
      <ViewMenu
        info={info}
        offered={offered}
        chosen={chosen}
        setChosen={setChosen}
        view={view}
        look={setView}
        rows={found}
        lens={lens}
        setLens={setLens}
        time={view.time}
        setTime={setTime}
        open={open}
        add={add}
        folded={folded.size > 0}
        foldAll={foldAll}
        more={more}
      />
      {open && hands.many && <Bulk hands={hands} info={info} columns={columns} />}
      {open && strip === "undated" && (
        <Undated
          rows={undatedOf(rows.values())}
          axis={axis}
          begin={(row, day) => plan.change([{ do: "set", row: row.id, cells: { begin: day } }])}
          goTo={(row) => hands.goTo(row.id, "begin")}
          shut={() => setStrip("")}
        />
      )}
      {open && strip === "people" && (
        <PeopleStrip
          resources={info.resources}
          rows={rows}
          assign={(resource, row) => plan.change([{ do: "assign", resource, rows: [row] }])}
          shut={() => setStrip("")}
        />
      )}
      {dragging && <WhatItMoves effect={hold.seen.answer} problem={hold.seen.problem} drag={dragging} />}
      <DriftPattern />
      <PlanGrid
        lines={lines}
        columns={columns}
        hands={hands}
        plan={plan}
        open={open}
        tree={tree ? rows : null}
        folded={folded}
        fold={fold}
        resize={resize}
        sort={lens.sort}
        onSort={onSort}
        beside={
          beside
            ? {
                split,
                setSplit,
                head: <TimeHead axis={axis} />,
                width: axis.width,
                draw: bar,
                under: (
                  <>
                    <TimeRules axis={axis} status={info.status} deadline={info.deadline} />
                    <Ties lines={lines} chosen={hands.here} axis={axis} drag={dragging} />
                  </>
                ),
                focus: hands.here?.start && !dragging ? axis.x(hands.here.start) : null,
                scrollTo: Math.max(axis.x(info.status || info.start) - 160, 0),
              }
            : null
        }
      />
      {asks === "backward" && (
        <Suspense fallback={null}>
          <Backward
            plan={plan}
            finish={info.imposed_finish ?? info.finish}
            imposed={!!info.imposed_finish}
            shut={() => ask("")}
          />
        </Suspense>
      )}
      {asks === "copy" && (
        <Suspense fallback={null}>
          <CopyFrom
            project={project}
            plan={plan}
            elements={[...rows.values()].filter((r) => r.kind === "wbs")}
            shut={() => ask("")}
          />
        </Suspense>
      )}
      {hands.choosing && (
        <Suspense fallback={null}>
          <ChoosePeople
            rows={hands.choosing.map((r) => r.id)}
            name={words.plan.forRows(hands.choosing.map((r) => r.name))}
            plan={plan}
            shut={hands.leaveChoosing}
          />
        </Suspense>
      )}
      {hands.pasting && (
        <Suspense fallback={null}>
          <PasteDialog pasting={hands.pasting} columns={columns} refused={plan.refused} shut={hands.leavePaste} />
        </Suspense>
      )}
    </>
  );
}

/** The width in which the longest code can be read, within reason. */
function codesWidth(rows: Iterable<Row>): number {
  let longest = 0;
  for (const r of rows) longest = Math.max(longest, r.code.length);
  return Math.min(Math.max(62, 14 + longest * 8), 118);
}

/** The time to be shown: from the first start to the end of the quarter after the last finish, so that it seldom changes. */
function spanOf(data: Plan): [string, string] {
  let [from, to] = [data.info.start, data.info.finish];
  for (const r of data.rows.values()) {
    if (r.start && r.start < from) from = r.start;
    if (r.base_start && r.base_start < from) from = r.base_start;
    if (r.base_finish && r.base_finish > to) to = r.base_finish;
  }
  const [year, month] = [Number(to.slice(0, 4)), Number(to.slice(5, 7))];
  const quarter = new Date(0);
  quarter.setUTCFullYear(year, month + 2 - ((month - 1) % 3), 0);
  return [from, quarter.toISOString().slice(0, 10)];
}

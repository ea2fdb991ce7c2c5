import { Flex } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type RefObject, useCallback, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api";
import {
  Bones,
  format,
  keys,
  Mark,
  Notice,
  useAddressed,
  useBalance,
  useKept,
  usePlace,
  useSought,
  useWidth,
} from "../../shared";
import {
  FigureMenu,
  isPlain,
  keysOf,
  LOOK,
  LookBar,
  lookOf,
  nextSort,
  useFigures,
  useGround,
  useOffered,
} from "../../shared/look";
import { ReadSheet, type SheetColumn, type SheetLine } from "../../shared/sheet";
import {
  type Axis,
  axisOf,
  Consequence,
  DriftPattern,
  SCALES,
  type Scale,
  TIME_ROW,
  TimeHead,
  TimeLine,
  TimeRules,
} from "../../shared/time";
import { Button, Legend, OnOff, RoomHead, RowOf, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/timeline";
import { FrontHatch, LineDates } from "./FrontDrawing";
import { LineControls } from "./LineControls";
import { AT, frontsOf, type Lines, useLines } from "./lines";
import { PrintMenu } from "./PrintMenu";
import { RowDrawing } from "./RowDrawing";
import { brief, codeOf, flatOf, type Item, milestonesOf, nameOf, spanOf, treeOf } from "./rows";
import { useBars } from "./useBars";

type Column = SheetColumn<Item>;

const SPLIT = 482;
/** As wide as its columns, while nobody has drawn it otherwise. */
const MOST_SPLIT = 580;
const LEAD = 220;
/** What is left free at the right of a timeline that fits. */
const SPARE = 18;
const VIEW = {
  ...{ only: "", lines: "none", against: "baseline", dates: "", most: "10", cols: "", labels: "", bases: "" },
  ...LOOK,
};
const USUAL = ["start", "finish", "finish_difference"];
/** Where the page is measured by another baseline than the first. */
const USUAL_TWO = [...USUAL, "original_finish_difference"];
const w = words.timeline;

const lookOfRow = ({ bracket }: Item) => (bracket ? "wbs" : undefined);
const kindOf = ({ bar, outside }: Item): "activity" | "outside" | "wbs" =>
  bar ? "activity" : outside ? "outside" : "wbs";
const listed = (keys: string) => (keys ? keys.split(",") : []);

const WIDTHS: Record<string, number> = { money: 92, instant: 96, date: 96, days: 84, text: 92, choice: 86 };

const MARK: Column = {
  key: "mark",
  title: "",
  width: 28,
  left: true,
  text: ({ bar }) => words.marks[bar?.mark ?? ""] ?? "",
  draw: ({ bar }) => (bar ? <Mark mark={bar.mark} /> : null),
};
const NAME: Column = {
  key: "name",
  title: words.columns.activity,
  width: 176,
  grow: true,
  left: true,
  tree: true,
  text: (r) => (r.bar ? r.bar.name : `${codeOf(r)} ${nameOf(r)}`),
  hint: (r) => `${codeOf(r)} ${nameOf(r)}`,
};

/** What is known of another project's activity. */
const outsideOf = ({ start, finish, state }: Schemas["External"], key: string) =>
  ({ start, finish, state })[key] ?? null;

const columnOf = (f: Schemas["FigureOut"]): Column => ({
  key: f.key,
  title: f.key === "finish_difference" ? w.variance : f.head,
  width: WIDTHS[f.kind] ?? 76,
  text: ({ figures, outside }) => brief(outside ? outsideOf(outside.external, f.key) : figures?.figures[f.key], f),
  hint: ({ bar }) => (f.key === "finish" && bar?.driving ? w.driving : f.word),
  look: ({ bar }) =>
    f.key !== "finish_difference" || !bar?.late_days
      ? undefined
      : bar.late_days > 0.05
        ? "late"
        : bar.late_days < -0.05
          ? "early"
          : undefined,
});

/** The schedule over time, against its baseline: for reading and showing. */
export function TimelineScreen() {
  const { project, page } = usePlace();
  const [kept, keep] = useKept<string>(`${project}.timeline.scale`, "fit");
  const [view, look] = useAddressed(`${project}/timeline`, { ...VIEW, scale: kept });
  const scale = SCALES.find((s) => s === view.scale) ?? "fit";
  const drawn = useLines(view);
  const { offered, columns: held } = useOffered();
  const ground = useGround();
  const now = useMemo(() => lookOf(view), [view]);
  const usual = useBalance(project, page.code).data?.first ? USUAL_TWO : USUAL;
  const chosen = useMemo(() => (view.cols ? listed(view.cols) : usual), [view.cols, usual]);
  const labels = useMemo(() => listed(view.labels), [view.labels]);
  const wanted = useMemo(() => [...new Set([...chosen, ...labels, ...keysOf(now)])], [chosen, labels, now]);
  const figures = useFigures(wanted);
  const timeline = useQuery({
    queryKey: keys.page(project, page.code).timeline(view.bases),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/timeline", {
          params: { path: { project, page: page.code }, query: { baselines: view.bases } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
  const whole = timeline.data;
  const rows = figures.data?.rows;
  const lines = useMemo(() => {
    if (!whole || !rows) return [];
    const t = view.only ? milestonesOf(whole) : whole;
    if (!isPlain(now)) return flatOf(t, rows, now, held, ground);
    return treeOf(t, new Map(rows.map((r) => [`${r.kind}.${r.code}`, r])));
  }, [whole, view.only, rows, now, held, ground]);
  const columns = useMemo(() => {
    const known = new Map(figures.data?.columns.map((f) => [f.key, f]));
    return [MARK, NAME, ...chosen.flatMap((key) => known.get(key) ?? []).map(columnOf)];
  }, [figures.data, chosen]);
  const labelOf = useMemo(() => {
    const found = (figures.data?.columns ?? []).filter((f) => labels.includes(f.key));
    return ({ figures: own }: Item) => found.flatMap((f) => brief(own?.figures[f.key], f) || []).join(", ");
  }, [figures.data, labels]);
  const perDay = useRef(8);
  if (timeline.isPending || figures.isPending) return <Bones />;
  if (!timeline.data) return <Notice bad>{timeline.error?.message}</Notice>;
  if (!figures.data) return <Notice bad>{figures.error?.message}</Notice>;
  const shown = timeline.data;
  const printed = () => ({
    rows: lines.map((l) =>
      l.kind === "row"
        ? { kind: kindOf(l.row), code: codeOf(l.row), of: l.row.outside?.of.code ?? "", name: "", depth: l.depth }
        : { kind: "group" as const, code: "", of: "", name: l.kind === "group" ? l.name : "", depth: 0 },
    ),
    columns: chosen,
    labels,
    baselines: listed(view.bases),
    lines: AT.find((a) => a === view.lines) ?? "none",
    against: view.against === "present" ? ("present" as const) : ("baseline" as const),
    dates: view.dates,
    most: Number(view.most) || 10,
    per_day: perDay.current,
  });
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told>{words.margin.asOf(format.fullDay(shown.status), shown.baseline)}</Told>
        <Space />
        <RowOf as="fieldset" mt="0" aria-label={w.scale}>
          {SCALES.map((s) => (
            <Button
              key={s}
              px="8"
              aria-pressed={scale === s}
              onClick={() => {
                keep(s);
                look({ scale: s });
              }}
            >
              {words.time[s]}
            </Button>
          ))}
        </RowOf>
        <PrintMenu view={printed} />
      </RoomHead>
      <LookBar view={view} look={look} columns={held} on={ground} whole={words.look.tree}>
        <FigureMenu
          word={words.look.columns}
          offered={offered}
          chosen={chosen}
          usual={usual}
          set={(next) => look({ cols: next.join(",") === usual.join(",") ? "" : next.join(",") })}
        />
        <FigureMenu
          word={words.look.labels}
          offered={offered}
          chosen={labels}
          usual={NONE}
          set={(next) => look({ labels: next.join(",") })}
        />
        <OnOff on={view.only !== ""} set={(on) => look({ only: on ? "milestones" : "" })}>
          {w.only}
        </OnOff>
        {shown.baselines.map((code) => (
          <OnOff
            key={code}
            on={listed(view.bases).includes(code)}
            set={(on) =>
              look({
                bases: (on ? [...listed(view.bases), code] : listed(view.bases).filter((x) => x !== code)).join(","),
              })
            }
          >
            {code}
          </OnOff>
        ))}
        <LineControls view={view} trouble={drawn.trouble} look={look} />
      </LookBar>
      {shown.bars.length === 0 && <Notice>{w.empty}</Notice>}
      <Rows
        key={page.code}
        timeline={shown}
        scale={scale}
        drawn={drawn.data}
        strip={drawn.strip}
        lines={lines}
        columns={columns}
        labelOf={labelOf}
        perDay={perDay}
        sort={view.sort}
        onSort={(key) => look({ sort: nextSort(view.sort, key) })}
      />
      <Legend>
        {w.legend.map((l) => (
          <span key={l}>{l}</span>
        ))}
      </Legend>
    </>
  );
}

const NONE: string[] = [];

interface RowsProps {
  timeline: Schemas["TimelineOut"];
  scale: Scale;
  drawn?: Lines;
  strip: boolean;
  lines: SheetLine<Item>[];
  columns: Column[];
  labelOf: (item: Item) => string;
  /** Told how wide a day is drawn. */
  perDay: RefObject<number>;
  sort: string;
  onSort: (key: string) => void;
}

function Rows({ timeline, scale, drawn, strip, lines, columns, labelOf, perDay, sort, onSort }: RowsProps) {
  const { project, page, seek, tell } = usePlace();
  const sought = useSought();
  const box = useRef<HTMLDivElement>(null);
  const whole = useWidth(box);
  const [split, setSplit] = useKept(`${project}.timeline.split`, SPLIT);
  const wide =
    split === SPLIT
      ? Math.min(
          columns.reduce((sum, c) => sum + c.width, 6),
          MOST_SPLIT,
        )
      : split;
  /** The row whose bar is reached for: it tells its dates. */
  const [over, setOver] = useState("");
  const { start, finish, status, deadline } = timeline;
  const room = Math.max(whole - wide - SPARE, 100);
  const axis = useMemo(() => axisOf(start, finish, scale, room), [start, finish, scale, room]);
  perDay.current = axis.perDay;
  const fronts = useMemo(() => {
    if (!drawn) return null;
    const codes = lines.map((l) => (l.kind === "row" ? (l.row.bar?.code ?? null) : null));
    const found = frontsOf(drawn, codes, axis, TIME_ROW);
    return new Map(lines.map((l, i) => [l.id, found[i]]));
  }, [drawn, lines, axis]);
  const balance = useBalance(project, page.code).data;
  const bars = useBars(axis, balance?.finish);
  const navigate = useNavigate();
  const stand = useCallback(
    (item: Item | null) => tell(item?.bar ? { about: "activity", code: item.bar.code } : null),
    [tell],
  );
  return (
    <Flex ref={box} direction="column" flex="1" minH="0">
      <DriftPattern />
      <FrontHatch />
      {bars.refused && <Notice bad>{bars.refused}</Notice>}
      {bars.held && (
        <Consequence bad={bars.seen.problem !== null}>
          {bars.seen.problem ?? bars.seen.answer?.says ?? w.hands.held(bars.held.bar.name)}
        </Consequence>
      )}
      <ReadSheet
        label={w.title}
        lines={lines}
        columns={columns}
        codeOf={codeOf}
        nameOf={nameOf}
        look={lookOfRow}
        tree
        first="name"
        seek={sought}
        stand={stand}
        open={({ bar }) => {
          if (!bar) return;
          navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/posting`);
          seek(bar.code, "percent");
        }}
        sort={sort}
        onSort={onSort}
        beside={(here) => ({
          split: wide,
          setSplit,
          head: (
            <>
              <TimeHead axis={axis} />
              {drawn && <LineDates lines={drawn} axis={axis} />}
            </>
          ),
          width: axis.width,
          draw: (line, top) =>
            line.kind === "row" ? (
              <TimeLine key={line.id} top={top}>
                <RowDrawing
                  item={line.row}
                  axis={axis}
                  front={fronts?.get(line.id)}
                  label={labelOf(line.row)}
                  dates={!bars.held && (over === line.id || line.row === here)}
                  reach={(on) => setOver(on ? line.id : "")}
                  strip={strip}
                  held={bars.held && bars.held.bar.code === line.row.bar?.code ? bars.held : undefined}
                  ends={bars.seen.answer?.finishes.get(line.row.bar?.code ?? "")}
                  down={bars.down}
                />
              </TimeLine>
            ) : null,
          under: <TimeRules axis={axis} status={status} deadline={deadline} />,
          focus: startOf(here, axis),
          scrollTo: Math.max(axis.x(status) - LEAD, 0),
        })}
      />
    </Flex>
  );
}

/** Where the row that the cursor is on begins. */
function startOf(here: Item | null, axis: Axis) {
  const start = here && spanOf(here).start;
  return start ? axis.x(start) : null;
}

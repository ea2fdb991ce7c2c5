import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import { client, type Schemas, take } from "../../api";
import { format, Mark, Notice, useAddressed, useKept, usePlace, useSought } from "../../shared";
import { ReadSheet, type SheetColumn, type SheetLine } from "../../shared/sheet";
import {
  type Axis,
  axisOf,
  BarDrawing,
  BracketDrawing,
  DriftPattern,
  SCALES,
  type Scale,
  TIME_ROW,
  TimeHead,
  TimeLine,
  TimeRules,
} from "../../shared/time";
import { Button, Legend, RoomHead, RowOf, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/schedule";
import { LineControls } from "./LineControls";
import { type Lines, piecesOf, strength, useLines } from "./lines";

type Bar = Schemas["Bar"];
type Item = { bracket: Schemas["Bracket"]; bar?: undefined } | { bar: Bar; bracket?: undefined };
type Column = SheetColumn<Item>;

const SPLIT = 470;
const LEAD = 220;
const VIEW = { scale: "week", lines: "none", against: "baseline", dates: "", most: "10" };
const w = words.timeline;

const codeOf = ({ bar, bracket }: Item) => bar?.code ?? bracket?.code ?? "";
const nameOf = ({ bar, bracket }: Item) => bar?.name ?? bracket?.name ?? "";
const lookOf = ({ bracket }: Item) => (bracket ? "wbs" : undefined);

function linesOf(t: Schemas["TimelineOut"]): SheetLine<Item>[] {
  const byWbs = Map.groupBy(t.bars, (b) => b.wbs ?? "");
  const line = (row: Item, depth: number, parts: number): SheetLine<Item> => ({
    kind: "row",
    id: row.bar ? row.bar.code : `wbs.${row.bracket?.code}`,
    row,
    depth,
    parts,
  });
  const within = (code: string, depth: number) => (byWbs.get(code) ?? []).map((bar) => line({ bar }, depth, 0));
  return [
    ...within("", 0),
    ...t.wbs.flatMap((bracket) => [line({ bracket }, bracket.level, 1), ...within(bracket.code, bracket.level + 1)]),
  ];
}

const COLUMNS: Column[] = [
  {
    key: "mark",
    title: "",
    width: 28,
    left: true,
    text: ({ bar }) => bar?.mark.replaceAll("_", " ") ?? "",
    draw: ({ bar }) => (bar ? <Mark mark={bar.mark} /> : null),
  },
  {
    key: "name",
    title: words.columns.activity,
    width: 210,
    grow: true,
    left: true,
    tree: true,
    text: ({ bar, bracket }) => bar?.name ?? `${bracket?.code} ${bracket?.name}`,
    hint: (r) => `${codeOf(r)} ${nameOf(r)}`,
  },
  { key: "start", title: w.start, width: 58, text: (r) => format.day((r.bar ?? r.bracket).start) },
  {
    key: "finish",
    title: w.finish,
    width: 58,
    text: (r) => format.day((r.bar ?? r.bracket).finish),
    hint: ({ bar }) => (bar?.driving ? w.driving : undefined),
  },
  {
    key: "late",
    title: w.variance,
    width: 74,
    text: ({ bar }) => (bar ? format.late(bar.late_days) : ""),
    look: ({ bar }) => ((bar?.late_days ?? 0) > 0.05 ? "late" : (bar?.late_days ?? 0) < -0.05 ? "early" : undefined),
  },
];

/** The schedule over time, against its baseline. */
export function TimelineScreen() {
  const { project, page } = usePlace();
  const [view, look] = useAddressed(`${project}/timeline`, VIEW);
  const scale = view.scale as Scale;
  const lines = useLines(view);
  const timeline = useQuery({
    queryKey: [project, page.code, "timeline"],
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/timeline", { params: { path: { project, page: page.code } } }),
      ),
  });
  if (timeline.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (timeline.isError) return <Notice bad>{timeline.error.message}</Notice>;
  const t = timeline.data;
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told>{words.margin.asOf(format.fullDay(t.status), t.baseline)}</Told>
        <Space />
        <RowOf as="fieldset" aria-label={w.scale}>
          {SCALES.map((s) => (
            <Button key={s} aria-pressed={scale === s} onClick={() => look({ scale: s })}>
              {words.time[s]}
            </Button>
          ))}
        </RowOf>
      </RoomHead>
      <LineControls view={view} trouble={lines.trouble} look={look} />
      <Rows key={page.code} timeline={t} scale={scale} drawn={lines.data} />
      <Legend>
        {w.legend.map((l) => (
          <span key={l}>{l}</span>
        ))}
      </Legend>
    </>
  );
}

interface RowsProps {
  timeline: Schemas["TimelineOut"];
  scale: Scale;
  drawn?: Lines;
}

function Rows({ timeline, scale, drawn }: RowsProps) {
  const { project, tell } = usePlace();
  const sought = useSought();
  const [split, setSplit] = useKept(`${project}.timeline.split`, SPLIT);
  const lines = useMemo(() => linesOf(timeline), [timeline]);
  const { start, finish, status, deadline } = timeline;
  const axis = useMemo(() => axisOf(start, finish, scale), [start, finish, scale]);
  const pieces = useMemo(() => {
    if (!drawn) return null;
    const codes = lines.map((l) => (l.kind === "row" ? (l.row.bar?.code ?? null) : null));
    const found = piecesOf(drawn, codes, axis, TIME_ROW);
    return new Map(lines.map((l, i) => [l.id, found[i] ?? []]));
  }, [drawn, lines, axis]);
  const stand = useCallback(
    (item: Item | null) => tell(item?.bar ? { about: "activity", code: item.bar.code } : null),
    [tell],
  );
  return (
    <>
      <DriftPattern />
      <ReadSheet
        label={w.title}
        lines={lines}
        columns={COLUMNS}
        codeOf={codeOf}
        nameOf={nameOf}
        look={lookOf}
        tree
        first="name"
        seek={sought}
        stand={stand}
        beside={(here) => ({
          split,
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
                <Drawing item={line.row} axis={axis} pieces={pieces?.get(line.id)} />
              </TimeLine>
            ) : null,
          under: <TimeRules axis={axis} status={status} deadline={deadline} />,
          focus: startOf(here, axis),
          scrollTo: Math.max(axis.x(status) - LEAD, 0),
        })}
      />
    </>
  );
}

/** Where the row that the cursor is on begins. */
function startOf(here: Item | null, axis: Axis) {
  const start = here && (here.bar ?? here.bracket).start;
  return start ? axis.x(start) : null;
}

interface DrawingProps {
  item: Item;
  axis: Axis;
  pieces?: string[];
}

function Drawing({ item: { bar, bracket }, axis, pieces }: DrawingProps) {
  return (
    <svg width={axis.width} height={TIME_ROW} data-bar={bar?.code} aria-hidden="true">
      {bar ? <BarDrawing bar={bar} axis={axis} /> : bracket && <BracketDrawing bracket={bracket} axis={axis} />}
      {pieces?.map((d, n) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: a line is known by its place
          key={n}
          d={d}
          data-line={n}
          fill="none"
          stroke="var(--chakra-colors-wet)"
          strokeWidth={n === pieces.length - 1 ? 2 : 1.4}
          opacity={strength(n, pieces.length)}
        />
      ))}
    </svg>
  );
}

/** The date of each line over the timeline, the newest strongest. */
function LineDates({ lines, axis }: { lines: Lines; axis: Axis }) {
  const { lines: all } = lines;
  return (
    <>
      {all.map(({ date, page }, n) => (
        <Box
          key={date}
          position="absolute"
          top="1px"
          left={`${axis.x(date)}px`}
          transform="translateX(-50%)"
          fontSize="11px"
          color={n === all.length - 1 ? "wet" : "soft"}
          whiteSpace="nowrap"
          title={w.lineAt(format.fullDay(date), page ?? "")}
        >
          {n === all.length - 1 || axis.x(all[n + 1]?.date ?? date) - axis.x(date) > 44 ? format.day(date) : ""}
        </Box>
      ))}
    </>
  );
}

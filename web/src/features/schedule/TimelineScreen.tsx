import { useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useLayoutEffect, useMemo, useRef } from "react";
import { client, type Schemas, take } from "../../api";
import { format, Mark, Notice, useAddressed, usePlace, words } from "../../shared";
import { Button } from "../../shared/ui";
import { BarDrawing, BracketDrawing, DriftPattern } from "./BarDrawing";
import { axisOf, type Scale } from "./scale";

type Item = { bracket: Schemas["Bracket"] } | { bar: Schemas["Bar"] };

const NAME = 214;
const HEIGHT = 34;
const VIEW = { scale: "week" };
const SCALES: Scale[] = ["day", "week", "month"];
const LEGEND = [
  "bracket below: baseline",
  "solid: worked",
  "tint: remaining",
  "hatched: drift past the baseline finish",
  "plum outline: drives the finish",
  "pin: milestone, hollow its baseline",
  "dots: float",
  "gap with dots: pause or waiting",
];

function itemsOf(t: Schemas["TimelineOut"]): Item[] {
  const byWbs = Map.groupBy(t.bars, (b) => b.wbs ?? "");
  const out: Item[] = (byWbs.get("") ?? []).map((bar) => ({ bar }));
  for (const bracket of t.wbs) {
    out.push({ bracket });
    for (const bar of byWbs.get(bracket.code) ?? []) out.push({ bar });
  }
  return out;
}

/** The schedule over time, against its baseline. */
export function TimelineScreen() {
  const { project, page } = usePlace();
  const [{ scale: chosen }, look] = useAddressed(`${project}/timeline`, VIEW);
  const scale = chosen as Scale;
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
      <div className="sheet-head">
        <h1>{words.timeline.title}</h1>
        <span className="told">{words.margin.asOf(format.fullDay(t.status), t.baseline)}</span>
        <span className="space" />
        <fieldset style={{ display: "flex", gap: 4 }} aria-label={words.timeline.scale}>
          {SCALES.map((s) => (
            <Button key={s} aria-pressed={scale === s} onClick={() => look({ scale: s })}>
              {words.timeline[s]}
            </Button>
          ))}
        </fieldset>
      </div>
      <Rows key={page.code} timeline={t} scale={scale} />
      <div className="legend">
        {LEGEND.map((l) => (
          <span key={l}>{l}</span>
        ))}
      </div>
    </>
  );
}

function Rows({ timeline, scale }: { timeline: Schemas["TimelineOut"]; scale: Scale }) {
  const box = useRef<HTMLDivElement>(null);
  const items = useMemo(() => itemsOf(timeline), [timeline]);
  const axis = useMemo(() => axisOf(timeline.start, timeline.finish, scale), [timeline.start, timeline.finish, scale]);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: () => HEIGHT,
    overscan: 10,
  });
  const status = axis.x(timeline.status);
  const toStatus = useCallback(() => {
    if (box.current) box.current.scrollLeft = Math.max(status - (box.current.clientWidth - NAME) * 0.45, 0);
  }, [status]);
  useLayoutEffect(toStatus, [toStatus]);
  const width = NAME + axis.width;
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
    <div ref={box} className="time" tabIndex={0} role="region" aria-label={words.timeline.title}>
      <DriftPattern />
      <div className="time-head" style={{ width }}>
        <div className="corner" style={{ width: NAME }}>
          {words.columns.activity}
        </div>
        {axis.ticks
          .filter((t) => t.label)
          .map((t) => (
            <span key={t.x} className="tick" style={{ left: NAME + t.x }}>
              {t.label}
            </span>
          ))}
      </div>
      <div style={{ height: virtual.getTotalSize(), width, position: "relative" }}>
        {axis.ticks
          .filter((t) => t.strong || scale !== "day")
          .map((t) => (
            <div key={t.x} className="time-tick" style={{ left: NAME + t.x }} />
          ))}
        {timeline.deadline && (
          <div
            className="time-deadline"
            style={{ left: NAME + axis.x(timeline.deadline) }}
            title={`Deadline ${format.fullDay(timeline.deadline)}`}
          />
        )}
        <div className="time-status" style={{ left: NAME + status }} />
        {virtual.getVirtualItems().map((v) => {
          const item = items[v.index];
          return item ? <TimeRow key={v.key} item={item} top={v.start} axis={axis} /> : null;
        })}
      </div>
    </div>
  );
}

function TimeRow({ item, top, axis }: { item: Item; top: number; axis: ReturnType<typeof axisOf> }) {
  const { tell } = usePlace();
  const wbs = "bracket" in item;
  return (
    <div className="time-row" style={{ transform: `translateY(${top}px)`, width: NAME + axis.width }}>
      <div
        className={wbs ? "time-name wbs" : "time-name"}
        style={{ width: NAME, paddingLeft: wbs ? 10 + item.bracket.level * 10 : 18 }}
      >
        {wbs ? (
          <span title={item.bracket.name}>
            {item.bracket.code} {item.bracket.name}
          </span>
        ) : (
          <>
            <Mark mark={item.bar.mark} size={13} />
            <Button
              title={`${item.bar.code} ${item.bar.name}`}
              onClick={() => tell({ about: "activity", code: item.bar.code })}
              look="bare"
            >
              {item.bar.name}
            </Button>
          </>
        )}
      </div>
      <svg
        width={axis.width}
        height={HEIGHT}
        role="img"
        aria-label={wbs ? item.bracket.name : said(item.bar)}
        data-bar={wbs ? undefined : item.bar.code}
      >
        {wbs ? <BracketDrawing bracket={item.bracket} axis={axis} /> : <BarDrawing bar={item.bar} axis={axis} />}
      </svg>
    </div>
  );
}

const said = (b: Schemas["Bar"]) =>
  `${b.name}: ${format.fullDay(b.start)} to ${format.fullDay(b.finish)}, ${format.late(b.late_days)}, ${format.percent(b.percent)} % done${b.driving ? ", drives the finish" : ""}`;

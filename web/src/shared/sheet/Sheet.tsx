import { useVirtualizer } from "@tanstack/react-virtual";
import {
  type CSSProperties,
  type PointerEvent,
  type ReactNode,
  type RefObject,
  type UIEvent,
  useEffect,
  useRef,
} from "react";
import { useWhenever } from "../useWhenever";
import { useWidth } from "../useWidth";
import { Divider } from "./Divider";
import { Heading } from "./Heading";
import { type Doing, type RowProps, SheetRow } from "./SheetRow";
import { ROW, type SheetColumn, type SheetLine, type Trouble } from "./sheet";
import { cx } from "./style";
import type { Hands } from "./useSheet";
import { useSpot } from "./useSpot";

/** What stands beside the rows, drawn line by line. */
export interface SidePane<R> {
  /** How wide the rows are; 0: as wide as their columns. */
  split: number;
  setSplit: (width: number) => void;
  head: ReactNode;
  width: number;
  draw: (line: SheetLine<R>, top: number) => ReactNode;
  under: ReactNode;
  scrollTo: number;
  /** Where what belongs to the chosen row begins; it is brought into sight. */
  focus: number | null;
}

interface Props<R, C extends SheetColumn<R>>
  extends Pick<RowProps<R, C>, "can" | "codeOf" | "nameOf" | "look" | "lead"> {
  label: string;
  lines: SheetLine<R>[];
  columns: C[];
  hands: Hands<R, C>;
  troubles: Record<string, Trouble>;
  /** What was typed and is not answered yet; it shows at once. */
  waiting: Record<string, string>;
  drop: Doing<R, C>["drop"];
  take: Doing<R, C>["take"];
  /** Whether rows lie in one another. */
  tree?: boolean;
  folded?: Set<string>;
  grip?: (event: PointerEvent<Element>, row: R) => void;
  sort?: string;
  onSort?: (key: string) => void;
  resize?: (key: string, width: number) => void;
  beside?: SidePane<R> | null;
  /** Over the rows: where rows that are dragged would be put down. */
  over?: ReactNode;
  box: RefObject<HTMLDivElement | null>;
  /** As tall as its lines, up to this many; absent: it takes the room there is. */
  fit?: number;
  /** Told the row that the cursor comes to, once the sheet has been touched. */
  stand?: (row: R | null) => void;
  /** Told the lines that are in sight, whenever they may be others. */
  inSight?: (lines: string[]) => void;
  /** What is said over the sheet: that it is empty, or can't be changed. */
  children?: ReactNode;
}

const NONE = new Set<string>();
const NOTHING = {};
/** What is kept of the cells of a line; the same nothing for all that have none, so that they are not drawn again. */
const ofLine = <T,>(kept: Record<string, T>, line: string): Record<string, T> =>
  Object.keys(kept).some((key) => key.startsWith(`${line}:`)) ? kept : NOTHING;
const BELOW = 120;
const HEAD = 36;
/** The least room beside the sheet. */
const BESIDE = 200;

/** A sheet: rows under headings, only those in sight drawn, with a pane beside them where there is one. */
export function Sheet<R, C extends SheetColumn<R>>(props: Props<R, C>) {
  const { lines, columns, hands, beside, box, troubles } = props;
  const folded = props.folded ?? NONE;
  const pane = useRef<HTMLDivElement>(null);
  const across = useRef<HTMLDivElement>(null);
  const bars = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 14,
    scrollPaddingEnd: 42,
  });
  const room = useWidth(pane);
  const whole = useWidth(box);
  const bare = columns.reduce((sum, c) => sum + c.width, 0);
  const pins = columns.some((c) => c.pin);
  const growing = columns.filter((c) => c.grow).length;
  const spare = growing ? Math.max(0, Math.floor((room - bare) / growing)) : 0;
  const widths = columns.map((c) => c.width + (c.grow ? spare : 0));
  const width = widths.reduce((sum, w) => sum + w, 0);
  const template = widths.map((w) => `${w}px`).join(" ");

  const spot = useSpot(columns.map((c) => c.key).join(), box, across);
  /** A sheet that was slid before comes back as it stood, until the cursor goes on. */
  const still = useRef(spot.kept ? 2 : 0);
  useWhenever([hands.row], () => {
    if (still.current) still.current--;
    else if (hands.row >= 0 && hands.row < lines.length) virtual.scrollToIndex(hands.row, { align: "auto" });
  });
  // Where the room gets lower, as when details open, the cursor's row does not come to lie under its edge.
  const height = virtual.scrollRect?.height ?? 0;
  const stood = useRef(0);
  useWhenever([height], () => {
    const [top, from] = [hands.row * ROW, box.current?.scrollTop ?? 0];
    if (height < stood.current && top >= from && top < from + stood.current)
      virtual.scrollToIndex(hands.row, { align: "auto" });
    stood.current = height;
  });
  useWhenever([hands.col, hands.row], () => {
    const bar = across.current;
    if (still.current) still.current--;
    else if (bar) {
      const left = widths.slice(0, hands.col).reduce((sum, w) => sum + w, 0);
      const right = left + (widths[hands.col] ?? 0);
      if (left < bar.scrollLeft) bar.scrollLeft = left;
      else if (right > bar.scrollLeft + bar.clientWidth) bar.scrollLeft = right - bar.clientWidth;
    }
  });
  const wasEditing = useRef(false);
  useEffect(() => {
    const lost = document.activeElement === document.body || box.current?.contains(document.activeElement);
    if (wasEditing.current && !hands.editing && lost) box.current?.focus();
    wasEditing.current = hands.editing !== null;
  }, [hands.editing, box]);
  const touched = useRef(false);
  const on = hands.here ? hands.line?.id : undefined;
  useWhenever([on], () => {
    if (touched.current) props.stand?.(hands.here);
  });
  const touch = () => {
    if (touched.current) return;
    touched.current = true;
    props.stand?.(hands.here);
  };
  // Hands can begin at once when a room opens.
  useEffect(() => {
    const had = document.activeElement;
    if (!props.fit && (had === document.body || had?.id === "sheet")) box.current?.focus({ preventScroll: true });
  }, [box, props.fit]);
  const scrollTo = beside?.scrollTo;
  useEffect(() => {
    if (scrollTo !== undefined && bars.current) bars.current.scrollLeft = scrollTo;
  }, [scrollTo]);
  const focus = beside?.focus ?? null;
  const opened = useRef(false);
  useEffect(() => {
    const bar = bars.current;
    const first = !opened.current;
    opened.current = true;
    // A room opens at the status date, not at the row it happens to stand on.
    if (first || !bar || focus === null || (focus > bar.scrollLeft && focus < bar.scrollLeft + bar.clientWidth - 40))
      return;
    bar.scrollLeft = Math.max(focus - 80, 0);
  }, [focus]);
  /** Moves the panes themselves: a custom property on the grid would have every cell styled anew. */
  const follow = (panes: string) => (event: UIEvent<HTMLElement>) => {
    if (pins) box.current?.style.setProperty("--slid", `${event.currentTarget.scrollLeft}px`);
    for (const found of box.current?.querySelectorAll<HTMLElement>(panes) ?? [])
      found.style.transform = `translateX(${-event.currentTarget.scrollLeft}px)`;
  };
  const items = virtual.getVirtualItems();
  useEffect(() => {
    props.inSight?.(items.flatMap((v) => lines[v.index]?.id ?? []));
  });
  const doing = useRef<Doing<R, C>>({ hands, drop: props.drop, take: props.take, grip: props.grip });
  doing.current = { hands, drop: props.drop, take: props.take, grip: props.grip };
  const isPicked = (index: number) => hands.many && hands.row >= 0 && index >= hands.low && index <= hands.high;
  const troubled = Object.keys(troubles).length > 0;
  const total = Math.max(virtual.getTotalSize(), 0) + (props.fit && !troubled ? 0 : BELOW);
  const tall = props.fit
    ? { flex: "none", height: HEAD + Math.min(lines.length, props.fit) * ROW + (troubled ? BELOW : 0) }
    : undefined;
  const short = Math.min(0, room - width);
  // Where the window is narrow, what stands beside the sheet keeps some room.
  const split = Math.min(beside?.split || bare, whole ? Math.max(whole - BESIDE, BESIDE) : Number.POSITIVE_INFINITY);
  const side = beside ? split : "100%";
  const active =
    hands.row < 0 ? `head-${hands.column?.key}` : hands.line ? `cell-${hands.line.id}-${hands.column?.key}` : undefined;
  return (
    <div className={cx("sheet-panes")} style={{ ...tall, "--short": `${short}px` } as CSSProperties}>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: a grid or a treegrid */}
      {/* biome-ignore lint/a11y/useAriaPropsSupportedByRole: both take them */}
      <div
        ref={box}
        className={cx("grid sheet-grid")}
        data-sheet=""
        role={props.tree ? "treegrid" : "grid"}
        tabIndex={0}
        aria-label={props.label}
        aria-rowcount={lines.length + 1}
        aria-multiselectable
        aria-activedescendant={active}
        onKeyDown={hands.keys}
        onFocus={touch}
        onScroll={spot.keep}
        onWheel={({ deltaX, target }) => {
          const bar = target instanceof Element && target.closest("[data-slides=time]") ? bars : across;
          if (bar.current && deltaX) bar.current.scrollLeft += deltaX;
        }}
        onCopy={hands.copy}
        onPaste={hands.paste}
      >
        <div className={cx("sheet-top")}>
          <div ref={pane} className={cx("sheet-left")} data-slides="rows" style={{ width: side }}>
            <div
              role="row"
              className={cx("grid-head sheet-slide")}
              data-slide="rows"
              style={{ gridTemplateColumns: template, width }}
            >
              {columns.map((c, i) => (
                <Heading
                  key={c.key}
                  column={c}
                  at={hands.row < 0 && hands.col === i}
                  sort={props.sort}
                  onSort={props.onSort}
                  resize={props.resize}
                />
              ))}
            </div>
          </div>
          {beside && (
            <div className={cx("sheet-right")} data-slides="time" aria-hidden="true">
              <div className={cx("sheet-slide-time")} data-slide="time" style={{ width: beside.width }}>
                {beside.head}
              </div>
            </div>
          )}
        </div>
        <div className={cx("sheet-body")} style={{ height: total }}>
          <div className={cx("sheet-left")} data-slides="rows" style={{ width: side, height: total }} role="rowgroup">
            <div className={cx("sheet-slide")} data-slide="rows" style={{ width }}>
              {items.map((v) => {
                const line = lines[v.index];
                return line ? (
                  <SheetRow
                    key={line.id}
                    line={line}
                    index={v.index}
                    top={v.start}
                    template={template}
                    columns={columns}
                    col={v.index === hands.row ? hands.col : -1}
                    editing={v.index === hands.row ? hands.editing : null}
                    from={isPicked(v.index) ? hands.left : -1}
                    to={isPicked(v.index) ? hands.right : -1}
                    troubles={ofLine(troubles, line.id)}
                    waiting={ofLine(props.waiting, line.id)}
                    up={v.index > 12 && v.index > lines.length - 4}
                    can={props.can}
                    codeOf={props.codeOf}
                    nameOf={props.nameOf}
                    look={props.look}
                    folded={folded.has(line.id)}
                    lead={props.lead}
                    grip={props.grip !== undefined}
                    tree={props.tree === true}
                    doing={doing}
                  />
                ) : null;
              })}
              {props.over}
            </div>
          </div>
          {beside && (
            <div className={cx("sheet-right")} data-slides="time" style={{ height: total }} aria-hidden="true">
              <div className={cx("sheet-slide-time")} data-slide="time" style={{ width: beside.width, height: total }}>
                {beside.under}
                {items.map((v) => {
                  const line = lines[v.index];
                  return line ? beside.draw(line, v.start) : null;
                })}
              </div>
            </div>
          )}
        </div>
      </div>
      {beside && <Divider split={split} setSplit={beside.setSplit} />}
      <div className={cx("sheet-bars")}>
        <div
          ref={across}
          tabIndex={-1}
          style={{ width: side }}
          onScroll={(event) => {
            follow("[data-slide=rows]")(event);
            spot.keep();
          }}
          aria-hidden="true"
        >
          <div style={{ width }} />
        </div>
        {beside && (
          <div
            ref={bars}
            tabIndex={-1}
            style={{ flex: 1 }}
            onScroll={follow("[data-slide=time]")}
            aria-hidden="true"
            data-timescroll=""
          >
            <div style={{ width: beside.width }} />
          </div>
        )}
      </div>
      {props.children}
    </div>
  );
}

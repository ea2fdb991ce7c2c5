import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import { format, Mark, usePlace, words } from "../../shared";
import { COLUMNS, FIELDS } from "./cells";
import { EntryCell } from "./EntryCell";
import type { useCursor } from "./useCursor";
import type { Row, Sheet, usePosting } from "./usePosting";

export type Item = { head: { code: string; name: string; level: number } } | { row: Row; index: number };

interface Props {
  items: Item[];
  sheet: Sheet;
  cursor: ReturnType<typeof useCursor>;
  posting: ReturnType<typeof usePosting>;
  open: boolean;
}

const HEIGHT = 28;

/** The rows of the posting sheet. Only those in sight are drawn. */
export function PostingGrid({ items, sheet, cursor, posting, open }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const { tell } = usePlace();
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: () => HEIGHT,
    overscan: 12,
  });
  const place = items.findIndex((i) => "row" in i && i.index === cursor.row);
  const wasEditing = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: follows the cursor, not the virtualizer
  useEffect(() => {
    if (place >= 0) virtual.scrollToIndex(place, { align: "auto" });
  }, [place]);
  useEffect(() => {
    if (
      wasEditing.current &&
      !cursor.editing &&
      (document.activeElement === document.body || box.current?.contains(document.activeElement))
    )
      box.current?.focus();
    wasEditing.current = cursor.editing !== null;
  }, [cursor.editing]);
  const picked = new Set(cursor.picked.map((r) => r.code));
  return (
    <div
      ref={box}
      className="grid"
      role="grid"
      tabIndex={0}
      aria-label={`Posting sheet, page to ${format.fullDay(sheet.status)}`}
      aria-rowcount={items.length + 1}
      aria-activedescendant={cursor.at ? `cell-${cursor.at.code}-${cursor.field}` : undefined}
      onKeyDown={cursor.keys}
      onCopy={cursor.copy}
      onPaste={cursor.paste}
    >
      <Head baseline={sheet.baseline} open={open} />
      <div role="rowgroup" style={{ height: virtual.getTotalSize() + 130, position: "relative" }}>
        {virtual.getVirtualItems().map((v) => {
          const item = items[v.index];
          if (!item) return null;
          const style = { transform: `translateY(${v.start}px)` };
          if ("head" in item)
            return (
              <div
                key={`h${item.head.code}`}
                role="row"
                className="grid-row head"
                style={{ ...style, paddingLeft: 10 + item.head.level * 12 }}
              >
                <span role="gridcell">
                  {item.head.code} {item.head.name}
                </span>
              </div>
            );
          const { row, index } = item;
          const here = index === cursor.row;
          return (
            <div
              key={row.code}
              role="row"
              aria-rowindex={v.index + 2}
              aria-selected={picked.has(row.code)}
              data-row={row.code}
              className={`grid-row${here ? " here" : ""}${picked.has(row.code) ? " picked" : ""}`}
              style={{
                ...style,
                gridTemplateColumns: COLUMNS,
                zIndex: FIELDS.some((f) => posting.trouble(row.code, f)) ? 4 : here ? 3 : undefined,
              }}
            >
              <Facts
                row={row}
                onChoose={(extend) => {
                  cursor.go(index, cursor.col, extend);
                  tell({ about: "activity", code: row.code });
                }}
              />
              {FIELDS.map((field, c) => (
                <EntryCell
                  key={field}
                  row={row}
                  field={field}
                  index={c}
                  here={here && c === cursor.col}
                  open={open}
                  up={v.index > 14 && v.index > items.length - 4}
                  editing={here && c === cursor.col ? cursor.editing : null}
                  trouble={posting.trouble(row.code, field)}
                  onText={(text) => cursor.setEditing((e) => (e ? { ...e, text } : e))}
                  onLeave={cursor.commit}
                  onChoose={(edit) => {
                    if (cursor.editing && here && c === cursor.col) return;
                    cursor.go(index, c);
                    tell({ about: "activity", code: row.code });
                    box.current?.focus();
                    if (edit) cursor.edit();
                  }}
                  onDrop={() => {
                    posting.drop(row.code, field);
                    box.current?.focus();
                  }}
                  onTake={(text, mine) => {
                    posting.post(row.code, { [field]: text }, mine);
                    box.current?.focus();
                  }}
                />
              ))}
              <div
                role="gridcell"
                className="cell"
                data-now={row.code}
                onClick={() => tell({ about: "figure", measure: "finish", kind: "activity", code: row.code })}
              >
                {format.day(row.finish_now)}
              </div>
              <div role="gridcell" className="cell">
                <span
                  className={
                    row.late_days != null && row.late_days >= 0.05
                      ? "late"
                      : row.late_days != null && row.late_days <= -0.05
                        ? "early"
                        : undefined
                  }
                >
                  {format.late(row.late_days)}
                </span>
              </div>
            </div>
          );
        })}
      </div>
    </div>
  );
}

function Facts({ row, onChoose }: { row: Row; onChoose: (extend: boolean) => void }) {
  return (
    <>
      <div role="gridcell" className="cell mark">
        <Mark mark={row.mark} reasons={row.mark_reasons} />
      </div>
      <div
        role="gridcell"
        className="cell left name"
        title={`${row.code} ${row.name}`}
        onClick={(e) => onChoose(e.shiftKey)}
      >
        {row.name}
        {row.out_of_sequence && row.state !== "complete" && (
          <span className="ahead" title={words.posting.aheadWhy}>
            {" "}
            · {words.posting.ahead}
          </span>
        )}
      </div>
      <div role="gridcell" className="cell soft">
        {format.percent(row.planned_percent)}
      </div>
      <div role="gridcell" className="cell soft">
        {row.last.actual_finish
          ? "100"
          : row.last.percent != null
            ? format.percent(row.last.percent)
            : row.last.actual_start
              ? "begun"
              : "–"}
      </div>
    </>
  );
}

function Head({ baseline, open }: { baseline: string | null; open: boolean }) {
  const c = words.columns;
  const names = [
    "",
    c.activity,
    c.planned,
    c.last,
    c.actual_start,
    c.actual_finish,
    c.percent,
    c.remaining,
    c.cost,
    c.note,
    c.finish,
    c.against(baseline ?? "–"),
  ];
  return (
    <div role="row" className="grid-head" style={{ gridTemplateColumns: COLUMNS }}>
      {names.map((name, i) => (
        <span
          key={name || "mark"}
          role="columnheader"
          aria-label={name ? undefined : "Mark"}
          className={i === 1 || i === 9 ? "left" : undefined}
          style={open && i > 3 && i < 10 ? { color: "var(--chakra-colors-wet)" } : undefined}
        >
          {name}
        </span>
      ))}
    </div>
  );
}

import { format, Mark, Sign } from "../../shared";
import { DAY, type LookColumn, minutesOf } from "../../shared/look";
import { Ahead, Ask, CellText } from "../../shared/sheet";
import { words } from "../../shared/words/posting";
import { type Column, shown, typedOf, uses } from "./cells";
import type { Field, Row, Sheet } from "./usePosting";

const entry = (field: Field, width: number, more: Partial<Column> = {}): Column => ({
  key: field,
  title: words.columns[field],
  width,
  writes: field,
  text: (r) => shown(r, field).text,
  typed: (r) => typedOf(r, field),
  hint: (r) => shown(r, field).title,
  look: (r) => (!uses(r, field) ? "soft" : shown(r, field).old ? "entry old" : "entry"),
  draw: (r) => {
    const { ask } = shown(r, field);
    return ask ? <Ask>{ask}</Ask> : null;
  },
  ...more,
});

const lastPercent = (r: Row) => {
  if (r.last.actual_finish) return "100";
  if (r.last.percent != null) return format.percent(r.last.percent);
  return r.last.actual_start ? words.posting.begun : "–";
};

const EMPTY = "";
const number = (text: string | null | undefined) => (text == null || text === EMPTY ? EMPTY : Number(text));
/** What an entry is compared by, as this page says it or the last one did. */
const stated = (field: "actual_start" | "actual_finish" | "carry_to") => (r: Row) =>
  (r.posted ? r.entry : r.last)[field] ?? EMPTY;

/** A date that nobody stated, as Enter states it. */
const assumed = (field: "actual_start" | "actual_finish") => (r: Row) => {
  const from = r.posted ? r.entry : r.last;
  return from.assumed?.includes(field) ? from[field]?.replace("T", " ") : undefined;
};

/** What rows are filtered and grouped by beside what their columns show: where they belong, whose they are, own fields. */
export function ownColumns(sheet: Sheet): LookColumn<Row>[] {
  const people = new Map((sheet.people ?? []).map(([code = "", name = ""]) => [code, name]));
  const paths = pathsOf(sheet.wbs);
  return [
    {
      key: "element",
      title: words.posting.byWbs,
      text: (r) => paths.get(r.wbs ?? "") ?? EMPTY,
      groups: true,
      inOrder: true,
    },
    {
      key: "people",
      title: words.posting.byPerson,
      text: (r) => r.people.map((code) => people.get(code) ?? code).join(", "),
      groups: true,
    },
    {
      key: "responsible",
      title: words.posting.byResponsible,
      text: (r) => r.responsible,
      groups: true,
    },
    ...(sheet.own ?? []).map(([code = "", title = ""]): LookColumn<Row> => {
      const text = (r: Row) => format.choice(r.fields[code] ?? EMPTY);
      return { key: `own:${code}`, title, text, groups: true };
    }),
  ];
}

/** What an element is called with all those above it. */
function pathsOf(wbs: Sheet["wbs"]): Map<string, string> {
  const above: string[] = [];
  return new Map(
    wbs.map(({ code, name, level }) => {
      above.splice(level, above.length, `${code} ${name}`);
      return [code, above.filter(Boolean).join(" / ")];
    }),
  );
}

/** The columns of the posting sheet: what is known of an activity, what is said of it here, and what follows. */
export function postingColumns(
  baseline: string | null,
  used: Set<string>,
  openFinish: (code: string) => void,
): Column[] {
  return [
    {
      key: "mark",
      title: "",
      label: words.look.mark,
      groups: true,
      width: 34,
      left: true,
      pin: "start",
      text: (r) => words.marks[r.mark] ?? "",
      hint: (r) => r.mark_reasons?.join(", "),
      draw: (r) => (
        <>
          <Mark mark={r.mark} reasons={r.mark_reasons} />
          <Sign code={r.code} />
        </>
      ),
    },
    {
      key: "code",
      title: words.columns.code,
      width: 54,
      left: true,
      pin: "start",
      look: () => "soft",
      text: (r) => r.code,
    },
    {
      key: "activity",
      title: words.columns.activity,
      width: 120,
      grow: true,
      left: true,
      pin: "start",
      look: () => "name two",
      text: (r) => r.name,
      hint: (r) => r.name,
      draw: (r) =>
        r.out_of_sequence && r.state !== "complete" ? (
          <CellText>
            <Ahead role="img" data-tip={words.posting.aheadWhy} aria-label={words.posting.ahead}>
              ←{" "}
            </Ahead>
            {r.name}
          </CellText>
        ) : null,
    },
    {
      key: "planned",
      title: words.columns.planned,
      width: 58,
      look: () => "soft",
      text: (r) => format.percent(r.planned_percent),
      kind: "number",
      value: (r) => r.planned_percent ?? EMPTY,
    },
    { key: "last", title: words.columns.last, width: 46, look: () => "soft", text: lastPercent },
    entry("actual_start", 56, {
      kind: "date",
      value: stated("actual_start"),
      assumed: assumed("actual_start"),
      look: (r) => `entry first-entry${shown(r, "actual_start").old ? " old" : ""}`,
    }),
    entry("actual_finish", 56, {
      kind: "date",
      value: stated("actual_finish"),
      assumed: assumed("actual_finish"),
    }),
    entry("percent", 60, { kind: "number", value: (r) => (r.posted ? r.entry : r.last).percent ?? EMPTY }),
    ...(used.has("units_done")
      ? [
          entry("units_done", 72, {
            kind: "number",
            value: (r) => number((r.posted ? r.entry : r.last).units_done),
          }),
        ]
      : []),
    ...(used.has("milestones_reached") ? [entry("milestones_reached", 66)] : []),
    entry("remaining", 70, { kind: "duration", value: (r) => minutesOf(r.entry.remaining ?? EMPTY, DAY) ?? EMPTY }),
    entry("carry_to", 50, { kind: "date", value: stated("carry_to") }),
    entry("cost", 72, {
      kind: "number",
      value: (r) => number(r.cost),
      look: (r) => `entry${r.cost == null ? " old" : ""}${r.reckoned ? " reckoned" : ""}`,
    }),
    entry("note", 60, { left: true, grow: true }),
    {
      key: "finish_now",
      title: words.columns.finish,
      width: 58,
      text: (r) => format.day(r.finish_now),
      kind: "date",
      value: (r) => r.finish_now,
      hint: () => words.posting.finishHint,
      draw: (r) => (
        <CellText data-now={r.code} onClick={() => openFinish(r.code)} aria-hidden="true">
          {format.day(r.finish_now)}
        </CellText>
      ),
    },
    {
      key: "late",
      title: words.columns.against(baseline ?? "–"),
      width: 76,
      text: (r) => format.late(r.late_days),
      kind: "number",
      value: (r) => r.late_days ?? EMPTY,
      look: (r) =>
        r.late_days == null || Math.abs(r.late_days) < 0.05 ? undefined : r.late_days > 0 ? "late" : "early",
    },
  ];
}

import { useCallback, useMemo, useState } from "react";
import { Bones, Entry, format, Mark, Notice, useAddressed, usePlace, useUndo } from "../../shared";
import { lineOf, ReadSheet, type SheetLine } from "../../shared/sheet";
import { Button, PartBar, RoomHead, ScrollBox, Soft, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/checks";
import { Quality } from "./Quality";
import { type Check, type Column, type Finding, typedOf, useChecks, useGo } from "./useChecks";

const w = words.checks;
const VIEW = { part: "", all: "", row: "" };
const PARTS = Object.entries(w.parts);
const LIMITS = ["lag", "float", "duration", "percent"] as const;
const codeOf = (f: Finding) => f.id;
const nameOf = (f: Finding) => f.name;

/** Findings under a heading for each kind and each check. */
function linesOf(checks: Check[], all: boolean, row: string, kept: Set<string>): SheetLine<Finding>[] {
  const shown = checks.flatMap((check) => {
    const rows = check.rows
      .filter((r) => (all || !r.answer || kept.has(`${check.check}:${r.code}`)) && (!row || r.code === row))
      .map((r): Finding => ({ ...r, id: `${check.check}:${r.code}`, check }));
    return rows.length ? [{ check, rows }] : [];
  });
  return Object.entries(w.severities).flatMap(([severity, title]): SheetLine<Finding>[] => {
    const own = shown.filter((s) => s.check.severity === severity);
    if (!own.length) return [];
    return [
      { kind: "group", id: severity, name: title, depth: 0 },
      ...own.flatMap(({ check, rows }): SheetLine<Finding>[] => [
        { kind: "group", id: check.check, name: w.heading(check.says, check.open, check.rows.length), depth: 1 },
        ...rows.map((f) => lineOf(f.id, f)),
      ]),
    ];
  });
}

const columnsOf = (go: (f: Finding) => void): Column[] => [
  {
    key: "mark",
    title: "",
    width: 28,
    left: true,
    text: (f) => words.marks[f.mark] ?? "",
    draw: (f) => (f.mark ? <Mark mark={f.mark} /> : null),
  },
  { key: "code", title: w.columns.code, width: 62, left: true, look: () => "soft", text: (f) => f.code },
  {
    key: "name",
    title: w.columns.name,
    width: 170,
    grow: true,
    left: true,
    look: () => "name",
    text: (f) => f.name,
    hint: (f) => f.name,
  },
  { key: "fresh", title: w.columns.fresh, width: 46, left: true, text: (f) => (f.new ? w.fresh : "") },
  {
    key: "where",
    title: w.columns.where,
    width: 110,
    left: true,
    text: () => w.go,
    draw: (f) => (
      <Button
        look="link"
        lineHeight="inherit"
        verticalAlign="baseline"
        tabIndex={-1}
        aria-label={w.goOf(f.name)}
        onClick={() => go(f)}
      >
        {w.go}
      </Button>
    ),
  },
  {
    key: "text",
    title: w.columns.text,
    width: 190,
    grow: true,
    left: true,
    writes: "text",
    look: () => "entry first-entry",
    text: (f) => f.answer?.text ?? "",
    typed: (f) => typedOf(f, "text"),
    hint: (f) => f.answer?.text,
  },
  {
    key: "until",
    title: w.columns.until,
    width: 82,
    left: true,
    writes: "until",
    look: () => "entry",
    text: (f) => (f.answer ? f.answer.until || w.good : ""),
    typed: (f) => typedOf(f, "until"),
  },
  {
    key: "by",
    title: w.columns.by,
    width: 104,
    left: true,
    look: () => "soft",
    text: (f) => f.answer?.by ?? "",
    hint: (f) => f.answer?.by,
  },
];

/** What the checks found on the page, as a list to work through; the quality of the plan; the limits. */
export function ChecksScreen() {
  const { project, mayPost, tell, person } = usePlace();
  const [{ part, all, row }, show] = useAddressed(`${project}/checks`, VIEW);
  const { list, write, limit, undoOrRedo, troubles, waiting, drop, refused } = useChecks();
  const go = useGo();
  /** What was answered on this visit stays in sight, so that one can go on in its row. */
  const [kept] = useState(() => new Set<string>());
  const lines = useMemo(() => linesOf(list.data?.checks ?? [], all === "yes", row, kept), [list.data, all, row, kept]);
  const columns = useMemo(() => columnsOf((f) => go(f.check.cell, f.code)), [go]);
  const can = useCallback((_: Finding, c: Column) => mayPost && c.writes !== undefined, [mayPost]);
  const stand = useCallback(
    (f: Finding | null) => f && tell({ about: "finding", check: f.check.check, code: f.code }),
    [tell],
  );
  useUndo({ undo: () => mayPost && undoOrRedo("undo"), redo: () => mayPost && undoOrRedo("redo") });
  if (list.isPending) return <Bones />;
  if (!list.data) return <Notice bad>{list.error.message}</Notice>;
  const { data } = list;
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told role="status">{w.counts(data.open, data.new, data.impossible)}</Told>
        <Space />
        {part === "" && row && (
          <Button aria-pressed="true" onClick={() => show({ row: "" })}>
            {w.only(row)}
          </Button>
        )}
        {part === "" && (
          <Button aria-pressed={all === "yes"} onClick={() => show({ all: all ? "" : "yes" })}>
            {w.answered}
          </Button>
        )}
        {mayPost && (
          <>
            <Button look="quiet" onClick={() => undoOrRedo("undo")} data-tip="Ctrl+Z">
              {words.sheet.undo}
            </Button>
            <Button look="quiet" onClick={() => undoOrRedo("redo")} data-tip="Ctrl+Shift+Z">
              {words.sheet.redo}
            </Button>
          </>
        )}
      </RoomHead>
      <PartBar label={w.partsOf} parts={PARTS} at={part} go={(key) => show({ part: key })} />
      {refused && <Notice bad>{refused}</Notice>}
      {part === "quality" && <Quality rows={data.quality ?? []} />}
      {part === "limits" && (
        <ScrollBox maxW="460px">
          {LIMITS.map((name) => (
            <Entry
              key={name}
              number
              label={w.limits[name] ?? name}
              value={data.limits[name]}
              trouble={troubles[`limits:${name}`]?.message}
              disabled={person.role === "reader"}
              write={(text) => limit(name, text)}
              right
            />
          ))}
          <Soft as="p">{w.limitsSay}</Soft>
        </ScrollBox>
      )}
      {part === "" &&
        (lines.length === 0 ? (
          <Notice>{data.checks?.length ? w.noneOpen : w.none}</Notice>
        ) : (
          <ReadSheet
            label={w.label(format.fullDay(data.status))}
            lines={lines}
            columns={columns}
            codeOf={codeOf}
            nameOf={nameOf}
            first="name"
            can={can}
            write={(cells, mine) => {
              for (const { row } of cells) kept.add(row.id);
              void write(cells, mine);
            }}
            troubles={troubles}
            waiting={waiting}
            drop={drop}
            stand={stand}
            keys={(event, f, c) => {
              if (event.key !== "Enter" || c.key !== "where") return false;
              go(f.check.cell, f.code);
              return true;
            }}
          />
        ))}
    </>
  );
}

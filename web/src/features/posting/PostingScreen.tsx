import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { format, Notice, useAddressed, usePlace, useShortcut, words } from "../../shared";
import { Sheet, type SheetLine, useSheet, type Write } from "../../shared/sheet";
import { Button } from "../../shared/ui";
import type { Column } from "./cells";
import { postingColumns } from "./columns";
import { type Row, type Sheet as SheetData, usePosting } from "./usePosting";

const CloseDialog = lazy(() => import("./CloseDialog").then((m) => ({ default: m.CloseDialog })));

const linesOf = (sheet: SheetData, all: boolean, kept: Set<string>): SheetLine<Row>[] => {
  const rows = (sheet.rows ?? []).filter((r) => all || r.wants || r.posted || kept.has(r.code));
  const byWbs = Map.groupBy(rows, (r) => r.wbs ?? "");
  const own = (code: string) =>
    (byWbs.get(code) ?? []).map((row): SheetLine<Row> => ({ kind: "row", id: row.code, row, depth: 0, parts: 0 }));
  return [
    ...own(""),
    ...sheet.wbs.flatMap((w): SheetLine<Row>[] =>
      byWbs.has(w.code)
        ? [{ kind: "group", id: `wbs:${w.code}`, name: `${w.code} ${w.name}`, depth: w.level }, ...own(w.code)]
        : [],
    ),
  ];
};
/** What the address says: whether all activities are shown, and the one that is stood on. */
const VIEW = { all: "" };
const AT = { at: "" };
const codeOf = (row: Row) => row.code;
const nameOf = (row: Row) => row.name;

/** The posting sheet of a page. */
export function PostingScreen() {
  const { project, page, mayPost, person, effect } = usePlace();
  const posting = usePosting();
  const [{ all: shown }, show] = useAddressed(`${project}/posting`, VIEW);
  const [{ at }, stand] = useAddressed(`${project}/posting/at`, AT);
  const all = shown === "yes";
  const sheet = posting.sheet.data;
  const [kept] = useState(() => new Set<string>());
  const lines = useMemo(() => (sheet ? linesOf(sheet, all, kept) : []), [sheet, all, kept]);
  const { tell, sought, topic } = usePlace();
  const openFinish = useCallback(
    (code: string) => tell({ about: "figure", measure: "finish", kind: "activity", code }),
    [tell],
  );
  const baseline = sheet?.baseline ?? null;
  const columns = useMemo(() => postingColumns(baseline, openFinish), [baseline, openFinish]);
  const can = useCallback((_: Row, c: Column) => mayPost && c.writes !== undefined, [mayPost]);
  const box = useRef<HTMLDivElement>(null);
  const entered = useRef(false);
  const write = (cells: Write<Row, Column>[], mine = false) => {
    for (const { row } of cells) kept.add(row.code);
    const first = cells[0];
    if (first) tell({ about: "activity", code: first.row.code });
    posting.write(cells, mine);
  };
  const hands = useSheet<Row, Column>({
    lines,
    columns,
    can,
    write,
    troubles: posting.troubles,
    waiting: posting.waiting,
    drop: posting.drop,
    first: "percent",
    own: {
      keys: ({ key }) => {
        entered.current = key === "Enter" && hands.editing !== null;
        return false;
      },
      edit: () => {
        if (hands.column?.key !== "finish_now" || !hands.here) return false;
        openFinish(hands.here.code);
        return true;
      },
    },
  });
  // The activity that the address says, once.
  const asked = useRef(at);
  const ready = sheet !== undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once the sheet is there
  useEffect(() => {
    if (ready && lines.some((l) => l.id === asked.current)) hands.goTo(asked.current);
  }, [ready]);
  // The margin follows the cursor; after Enter it stays with what was entered, to say what that moved.
  const code = hands.here?.code ?? "";
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the cursor comes to another row
  useEffect(() => {
    if (code) stand({ at: code });
    if (entered.current) entered.current = false;
    else if (code) tell({ about: "activity", code });
    else if (topic?.about === "activity") tell(null);
  }, [code]);
  const there = sought !== null && lines.some((l) => l.id === sought.code);
  // biome-ignore lint/correctness/useExhaustiveDependencies: goes there once, when something is looked for
  useEffect(() => {
    if (!sought) return;
    if (there) hands.goTo(sought.code);
    else show({ all: "yes" });
  }, [sought, there]);
  useShortcut("mod+z", () => void (mayPost && posting.undo()));
  useShortcut("mod+shift+z", () => void (mayPost && posting.redo()));
  useShortcut("mod+y", () => void (mayPost && posting.redo()));
  if (posting.sheet.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (!sheet) return <Notice bad>{posting.sheet.error?.message}</Notice>;
  const picked = hands.low === hands.high ? [] : hands.picked.map((r) => r.code);
  return (
    <>
      <div className="sheet-head">
        <h1>
          Page {page.number}, to {format.fullDay(page.status).replace(/ \d{4}$/, "")}
        </h1>
        <span className="told" role="status">
          {mayPost
            ? words.posting.counts(sheet.to_go ?? 0, sheet.posted ?? 0)
            : page.state === "dry"
              ? words.posting.dryNote
              : words.posting.readerNote}
          {effect?.subject === "" && `. ${effect.label.charAt(0).toUpperCase()}${effect.label.slice(1)}`}
        </span>
        <span className="space" />
        <Button aria-pressed={all} onClick={() => show({ all: all ? "" : "yes" })}>
          {words.posting.all}
        </Button>
        {mayPost && (
          <>
            <Button onClick={posting.undo} title="Ctrl+Z">
              {words.posting.undo}
            </Button>
            <Button onClick={posting.redo} title="Ctrl+Shift+Z">
              {words.posting.redo}
            </Button>
            <Button onClick={() => posting.toPlan(picked.length ? picked : null)}>
              {picked.length ? words.posting.planSelected(picked.length) : words.posting.plan}
            </Button>
            <ClosePage toGo={sheet.to_go ?? 0} close={posting.close} />
          </>
        )}
      </div>
      {posting.refused && <Notice bad>{posting.refused}</Notice>}
      {lines.length === 0 ? (
        <Notice>
          {words.posting.none} {person.role !== "reader" && words.posting.noneHelp}
        </Notice>
      ) : (
        <Sheet
          label={words.posting.sheet(format.fullDay(sheet.status))}
          box={box}
          lines={lines}
          columns={columns}
          hands={hands}
          troubles={posting.troubles}
          waiting={posting.waiting}
          drop={posting.drop}
          take={(row, line, column, text, mine) => write([{ row, line, column, text }], mine)}
          can={can}
          codeOf={codeOf}
          nameOf={nameOf}
        />
      )}
    </>
  );
}

/** Closing can't be undone, so it asks. */
function ClosePage({ toGo, close }: { toGo: number; close: () => Promise<{ page: string }> }) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button look="seal" onClick={() => setAsking(true)}>
        {words.posting.close}
      </Button>
      {asking && (
        <Suspense fallback={null}>
          <CloseDialog toGo={toGo} close={close} shut={() => setAsking(false)} />
        </Suspense>
      )}
    </>
  );
}

import { memo, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { format, Notice, useAddressed, usePlace, useSought, useTopic } from "../../shared";
import { Sheet, type SheetLine, useSheet, type Write } from "../../shared/sheet";
import { Button } from "../../shared/ui";
import { words } from "../../shared/words/posting";
import type { Column } from "./cells";
import { postingColumns } from "./columns";
import { PageHead } from "./PageHead";
import { type Row, type Sheet as SheetData, usePosting } from "./usePosting";

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
  const { project, mayPost, person, tell } = usePlace();
  const sought = useSought();
  const topic = useTopic();
  const posting = usePosting();
  const [{ all: shown }, show] = useAddressed(`${project}/posting`, VIEW);
  const [{ at }, stand] = useAddressed(`${project}/posting/at`, AT);
  const all = shown === "yes";
  const sheet = posting.sheet.data;
  const [kept] = useState(() => new Set<string>());
  const lines = useMemo(() => (sheet ? linesOf(sheet, all, kept) : []), [sheet, all, kept]);
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
    if (there) hands.goTo(sought.code, sought.key);
    else show({ all: "yes" });
  }, [sought, there]);
  const picked = hands.low === hands.high ? "" : JSON.stringify(hands.picked.map((r) => r.code));
  const showAll = useCallback(() => show({ all: all ? "" : "yes" }), [show, all]);
  const latest = useRef(posting);
  latest.current = posting;
  const toPlan = useCallback((codes: string[] | null) => latest.current.toPlan(codes), []);
  if (posting.sheet.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (!sheet) return <Notice bad>{posting.sheet.error?.message}</Notice>;
  return (
    <>
      <PageHead posting={posting} sheet={sheet}>
        <Button aria-pressed={all} onClick={showAll}>
          {words.posting.all}
        </Button>
        {mayPost && <PostAsPlanned picked={picked} toPlan={toPlan} />}
      </PageHead>
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

interface PlannedProps {
  /** The activities that are selected, as JSON; empty where they are not more than one. */
  picked: string;
  toPlan: (codes: string[] | null) => void;
}

const PostAsPlanned = memo(function PostAsPlanned({ picked, toPlan }: PlannedProps) {
  const codes: string[] = picked ? JSON.parse(picked) : [];
  return (
    <Button onClick={() => toPlan(codes.length ? codes : null)}>
      {codes.length ? words.posting.planSelected(codes.length) : words.posting.plan}
    </Button>
  );
});

import { lazy, Suspense, useCallback, useMemo, useRef, useState } from "react";
import {
  Bones,
  format,
  groupBy,
  Notice,
  useAddressed,
  useAtOnce,
  usePlace,
  useSought,
  useStanding,
  useWhenever,
} from "../../shared";
import { Sheet, type SheetLine, useSheet, type Write } from "../../shared/sheet";
import { Button } from "../../shared/ui";
import { words } from "../../shared/words/posting";
import { type Column, uses } from "./cells";
import { postingColumns } from "./columns";
import { Filter } from "./Filter";
import { shownRows } from "./lens";
import { PageHead } from "./PageHead";
import { type Field, type Row, type Sheet as SheetData, usePosting } from "./usePosting";

const AtOnce = lazy(() => import("./AtOnce").then((m) => ({ default: m.AtOnce })));
const corrections = () => import("./ProgressCorrections");
const CorrectStatement = lazy(() => corrections().then((m) => ({ default: m.CorrectStatement })));
const StatementCorrections = lazy(() => corrections().then((m) => ({ default: m.StatementCorrections })));
const Treatments = lazy(() => import("./Treatments").then((m) => ({ default: m.Treatments })));

const linesOf = (sheet: SheetData, rows: Row[]): SheetLine<Row>[] => {
  const byWbs = groupBy(rows, (r) => r.wbs ?? "");
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
/** What the address says: which activities are shown, and the one that is stood on. */
const VIEW = { show: "wants", only: "" };
const codeOf = (row: Row) => row.code;
const nameOf = (row: Row) => row.name;

/** The posting sheet of a page. */
export function PostingScreen() {
  const { project, page, mayPost, person, tell } = usePlace();
  const sought = useSought();
  const posting = usePosting();
  const [lens, show] = useAddressed(`${project}/posting`, VIEW);
  const [atOnce, setAtOnce] = useState<"" | "planned" | "carry" | "treatments">("");
  const [corrected, correct] = useState("");
  const [{ at }, stand] = useStanding(`${project}/posting`);
  const sheet = posting.sheet.data;
  const [kept] = useState(() => new Set<string>());
  const rows = useMemo(() => (sheet ? shownRows(sheet, lens, kept) : []), [sheet, lens, kept]);
  const lines = useMemo(() => (sheet ? linesOf(sheet, rows) : []), [sheet, rows]);
  const openFinish = useCallback(
    (code: string) => tell({ about: "figure", measure: "finish", kind: "activity", code }),
    [tell],
  );
  const baseline = sheet?.baseline ?? null;
  const methods = [...new Set(rows.map((r) => r.method))].sort().join();
  const columns = useMemo(
    () => postingColumns(baseline, new Set(methods.split(",")), openFinish),
    [baseline, methods, openFinish],
  );
  const can = useCallback(
    (row: Row, c: Column) => mayPost && c.writes !== undefined && uses(row, c.writes as Field),
    [mayPost],
  );
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
        if (!hands.here) return false;
        if (hands.column?.key === "finish_now") openFinish(hands.here.code);
        else if (page.state === "dry") correct(hands.here.code);
        else return false;
        return true;
      },
    },
  });
  // The activity that the address says, once.
  const asked = useRef(at);
  const ready = sheet !== undefined;
  useWhenever([ready], () => {
    if (ready && lines.some((l) => l.id === asked.current)) hands.goTo(asked.current);
  });
  // The margin follows the cursor; after Enter it stays with what was entered, to say what that moved.
  const code = hands.here?.code ?? "";
  useWhenever([code], () => {
    if (code) stand({ at: code });
    if (entered.current) entered.current = false;
    else if (code) tell({ about: "activity", code });
    else tell((now) => (now?.about === "activity" ? null : now));
  });
  const there = sought !== null && lines.some((l) => l.id === sought.code);
  // Before the next key, which goes on from there.
  useAtOnce([sought, there], () => {
    if (!sought) return;
    if (there) hands.goTo(sought.code, sought.key);
    else show({ show: "all", only: "" });
  });
  const picked = hands.low === hands.high ? [] : hands.picked.map((r) => r.code);
  const ahead = (sheet?.rows ?? []).filter((r) => r.out_of_sequence && r.state !== "complete").length;
  if (posting.sheet.isPending) return <Bones />;
  if (!sheet) return <Notice bad>{posting.sheet.error?.message}</Notice>;
  return (
    <>
      <PageHead
        posting={posting}
        sheet={sheet}
        beside={
          ahead > 0 && (
            <Button aria-expanded={atOnce === "treatments"} onClick={() => setAtOnce("treatments")}>
              {words.posting.treatments(ahead)}
            </Button>
          )
        }
      >
        <Filter sheet={sheet} lens={lens} set={show} />
        {mayPost && <Button onClick={() => setAtOnce("planned")}>{words.posting.plan}</Button>}
        {mayPost && <Button onClick={() => setAtOnce("carry")}>{words.posting.carry}</Button>}
      </PageHead>
      <Suspense fallback={null}>
        {(atOnce === "planned" || atOnce === "carry") && mayPost && (
          <AtOnce
            key={atOnce}
            kind={atOnce}
            posting={posting}
            wants={sheet.to_go ?? 0}
            shown={lens.only || lens.show !== "wants" ? rows.map((r) => r.code) : null}
            picked={picked}
            shut={() => setAtOnce("")}
          />
        )}
        {page.state === "dry" && (
          <CorrectStatement row={rows.find((r) => r.code === corrected)} shut={() => correct("")} />
        )}
        {atOnce === "treatments" && <Treatments posting={posting} shut={() => setAtOnce("")} />}
      </Suspense>
      {posting.refused && <Notice bad>{posting.refused}</Notice>}
      {lines.length === 0 ? (
        <Notice>
          {lens.only || lens.show !== "wants" ? words.posting.noneShown : words.posting.none}{" "}
          {person.role !== "reader" && words.posting.noneHelp}
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
      <Suspense fallback={null}>
        <StatementCorrections />
      </Suspense>
    </>
  );
}

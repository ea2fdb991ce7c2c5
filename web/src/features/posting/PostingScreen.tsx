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
import { arranged, byKey, isPlain, LOOK, type Look, LookParts, lookOf, nextSort, useGround } from "../../shared/look";
import { lineOf, Sheet, type SheetLine, useSheet, type Write } from "../../shared/sheet";
import { Button } from "../../shared/ui";
import { words } from "../../shared/words/posting";
import { type Column, uses } from "./cells";
import { ownColumns, postingColumns } from "./columns";
import { shownRows } from "./lens";
import { PageHead } from "./PageHead";
import { type Field, type Row, type Sheet as SheetData, usePosting } from "./usePosting";

const AtOnce = lazy(() => import("./AtOnce").then((m) => ({ default: m.AtOnce })));
const corrections = () => import("./ProgressCorrections");
const CorrectStatement = lazy(() => corrections().then((m) => ({ default: m.CorrectStatement })));
const StatementCorrections = lazy(() => corrections().then((m) => ({ default: m.StatementCorrections })));
const Treatments = lazy(() => import("./Treatments").then((m) => ({ default: m.Treatments })));

const ownLine = (row: Row) => lineOf(row.code, row);
/** The rows under the elements that they belong to. */
const linesOf = (sheet: SheetData, rows: Row[]): SheetLine<Row>[] => {
  const byWbs = groupBy(rows, (r) => r.wbs ?? "");
  const own = (code: string) => (byWbs.get(code) ?? []).map(ownLine);
  return [
    ...own(""),
    ...sheet.wbs.flatMap((w): SheetLine<Row>[] =>
      byWbs.has(w.code)
        ? [{ kind: "group", id: `wbs:${w.code}`, name: `${w.code} ${w.name}`, depth: w.level }, ...own(w.code)]
        : [],
    ),
  ];
};
/** What is looked at beside what is sought. */
const bareOf = (look: Look) => ({ ...look, find: "" });
/** What the address says: which activities are shown, and how. */
const VIEW = { show: "wants", ...LOOK };
const codeOf = (row: Row) => row.code;
const nameOf = (row: Row) => row.name;

/** The posting sheet of a page. */
export function PostingScreen() {
  const { project, page, mayPost, person, tell } = usePlace();
  const sought = useSought();
  const posting = usePosting();
  const [view, show] = useAddressed(`${project}/posting`, VIEW);
  const look = useMemo(() => lookOf(view), [view]);
  const ground = useGround();
  const [atOnce, setAtOnce] = useState<"" | "planned" | "carry" | "treatments">("");
  const [corrected, correct] = useState("");
  const [{ at }, stand] = useStanding(`${project}/posting`);
  const sheet = posting.sheet.data;
  const [kept] = useState(() => new Set<string>());
  const openFinish = useCallback(
    (code: string) => tell({ about: "figure", measure: "finish", kind: "activity", code }),
    [tell],
  );
  const baseline = sheet?.baseline ?? null;
  const found = useMemo(() => (sheet ? shownRows(sheet, view.show, look, kept) : []), [sheet, view.show, look, kept]);
  const used = [...new Set(found.flatMap((r) => r.uses))].sort().join();
  const columns = useMemo(
    () => postingColumns(baseline, new Set(used.split(",")), openFinish),
    [baseline, used, openFinish],
  );
  const held = useMemo(() => byKey([...columns, ...(sheet ? ownColumns(sheet) : [])]), [columns, sheet]);
  const lines = useMemo(() => {
    if (!sheet) return [];
    if (isPlain(bareOf(look))) return linesOf(sheet, found);
    return arranged(found, look, held, ground, ownLine);
  }, [sheet, found, look, held, ground]);
  const rows = useMemo(() => lines.flatMap((l) => (l.kind === "row" ? [l.row] : [])), [lines]);
  const cut = !isPlain(look) || view.show !== VIEW.show;
  const onSort = (key: string) => show({ sort: nextSort(view.sort, key) });
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
    onSort,
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
    else show({ ...LOOK, show: "all" });
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
        <LookParts
          view={view}
          look={show}
          columns={held}
          on={ground}
          rows={() => sheet.rows ?? []}
          first="people"
          whole={words.look.tree}
          short
          shows={words.posting.shows}
        />
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
            shown={cut ? rows.map((r) => r.code) : null}
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
          {cut ? words.posting.noneShown : words.posting.none} {person.role !== "reader" && words.posting.noneHelp}
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
          sort={view.sort}
          onSort={onSort}
        />
      )}
      <Suspense fallback={null}>
        <StatementCorrections />
      </Suspense>
    </>
  );
}

import { Button, Dialog, Portal } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useNavigate } from "react-router";
import { format, Notice, usePlace, words } from "../../shared";
import { type Item, PostingGrid } from "./PostingGrid";
import { useCursor } from "./useCursor";
import { type Sheet, usePosting } from "./usePosting";

const itemsOf = (sheet: Sheet, all: boolean, kept: Set<string>): Item[] => {
  const rows = (sheet.rows ?? []).filter((r) => all || r.wants || r.posted || kept.has(r.code));
  const byWbs = Map.groupBy(rows, (r) => r.wbs ?? "");
  const out: Item[] = [];
  let index = 0;
  const lay = (code: string) => {
    for (const row of byWbs.get(code) ?? []) out.push({ row, index: index++ });
  };
  lay("");
  for (const head of sheet.wbs) {
    if (!byWbs.has(head.code)) continue;
    out.push({ head });
    lay(head.code);
  }
  return out;
};

/** The posting sheet of a page. */
export function PostingScreen() {
  const { page, mayPost, person, effect } = usePlace();
  const posting = usePosting();
  const [all, setAll] = useState(false);
  const sheet = posting.sheet.data;
  const [kept] = useState(() => new Set<string>());
  const items = useMemo(() => (sheet ? itemsOf(sheet, all, kept) : []), [sheet, all, kept]);
  const rows = useMemo(() => items.flatMap((i) => ("row" in i ? [i.row] : [])), [items]);
  const { tell } = usePlace();
  const cursor = useCursor({
    rows,
    open: mayPost,
    post: (code, typed) => {
      kept.add(code);
      tell({ about: "activity", code });
      posting.post(code, typed);
    },
    drop: posting.drop,
    trouble: posting.trouble,
    moved: () => undefined,
  });
  const { sought } = usePlace();
  const target = sought && sheet ? rows.findIndex((r) => r.code === sought.code) : -1;
  // biome-ignore lint/correctness/useExhaustiveDependencies: goes there once, when something is looked for
  useEffect(() => {
    if (!sought) return;
    if (target >= 0) cursor.go(target, cursor.col);
    else setAll(true);
  }, [sought, target >= 0]);
  useHotkeys("mod+z", () => void (mayPost && posting.undo()), { preventDefault: true }, [mayPost]);
  useHotkeys("mod+shift+z, mod+y", () => void (mayPost && posting.redo()), { preventDefault: true }, [mayPost]);
  if (posting.sheet.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (!sheet) return <Notice bad>{posting.sheet.error?.message}</Notice>;
  const picked = cursor.picked.map((r) => r.code);
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
        <button type="button" className="act-on" aria-pressed={all} onClick={() => setAll(!all)}>
          {words.posting.all}
        </button>
        {mayPost && (
          <>
            <button type="button" className="act-on" onClick={posting.undo} title="Ctrl+Z">
              {words.posting.undo}
            </button>
            <button type="button" className="act-on" onClick={posting.redo} title="Ctrl+Shift+Z">
              {words.posting.redo}
            </button>
            <button type="button" className="act-on" onClick={() => posting.toPlan(picked.length ? picked : null)}>
              {picked.length ? words.posting.planSelected(picked.length) : words.posting.plan}
            </button>
            <ClosePage toGo={sheet.to_go ?? 0} close={posting.close} />
          </>
        )}
      </div>
      {posting.refused && <Notice bad>{posting.refused}</Notice>}
      {rows.length === 0 ? (
        <Notice>
          {words.posting.none} {person.role !== "reader" && words.posting.noneHelp}
        </Notice>
      ) : (
        <PostingGrid items={items} sheet={sheet} cursor={cursor} posting={posting} open={mayPost} />
      )}
    </>
  );
}

/** Closing can't be undone, so it asks. */
function ClosePage({ toGo, close }: { toGo: number; close: () => Promise<{ page: string }> }) {
  const { project, page } = usePlace();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState("");
  const seal = async () => {
    try {
      const next = await close();
      queries.removeQueries({ queryKey: [project] });
      await queries.invalidateQueries({ queryKey: ["frame", project] });
      navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(next.page)}/posting`);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(e) => {
        setOpen(e.open);
        setWrong("");
      }}
      role="alertdialog"
    >
      <Dialog.Trigger asChild>
        <button type="button" className="act-on seal">
          {words.posting.close}
        </button>
      </Dialog.Trigger>
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="sheet" color="ink" borderRadius="2px" maxW="440px">
            <Dialog.Header>
              <Dialog.Title fontFamily="heading">{words.posting.closeTitle(page.number)}</Dialog.Title>
            </Dialog.Header>
            <Dialog.Body>
              {toGo > 0 && <p>{words.posting.closeOpen(toGo)}</p>}
              <p>{words.posting.closeSure}</p>
              {wrong && (
                <p className="field-wrong" role="alert">
                  {wrong}
                </p>
              )}
            </Dialog.Body>
            <Dialog.Footer>
              <Dialog.CloseTrigger asChild position="static">
                <Button variant="outline" size="sm" color="ink" borderColor="ruleStrong" width="auto" px="12px">
                  {words.posting.keep}
                </Button>
              </Dialog.CloseTrigger>
              <Button size="sm" colorPalette="quill" onClick={seal}>
                {words.posting.close}
              </Button>
            </Dialog.Footer>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}

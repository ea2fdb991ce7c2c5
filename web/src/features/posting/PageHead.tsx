import { lazy, memo, type ReactNode, Suspense, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { format, useLastEffect, usePlace, useUndo } from "../../shared";
import { Button, PartLinks, RoomHead, RowOf, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/posting";
import type { Sheet, usePosting } from "./usePosting";

const CloseDialog = lazy(() => import("./CloseDialog").then((m) => ({ default: m.CloseDialog })));
const StatusDate = lazy(() => import("./StatusDate").then((m) => ({ default: m.StatusDate })));
const PageNote = lazy(() => import("./PageNote").then((m) => ({ default: m.PageNote })));
type Posting = ReturnType<typeof usePosting>;
/** What is opened under the head. */
type Strip = "" | "status" | "note";
const LENSES = [
  ["posting", words.posting.progress],
  ["posting/hours", words.posting.hours],
  ["posting/costs", words.posting.costs],
  ["posting/answers", words.posting.answers],
  ["posting/feeds", words.posting.feeds],
  ["posting/history", words.posting.history],
] as const;

/** What only those see who may post. */
const WRITERS: string[] = ["posting/feeds", "posting/answers"];

interface Props {
  posting: Posting;
  sheet: Sheet;
  /** What is done on this lens alone. */
  children: ReactNode;
  /** What it has to say beside the counts. */
  beside?: ReactNode;
}

/** The page that is posted on: its status date, what is done to the whole of it, and the lenses on it. */
export function PageHead({ posting, sheet, children, beside }: Props) {
  const { mayPost } = usePlace();
  const latest = useRef(posting);
  latest.current = posting;
  const [does] = useState(() => ({
    undo: () => latest.current.undo(),
    redo: () => latest.current.redo(),
    close: (next: string) => latest.current.close(next),
    open: (next: string) => latest.current.open(next),
    takeBack: () => latest.current.takeBack(),
  }));
  const [opened, setOpened] = useState<Strip>("");
  const [toggle] = useState(() => (strip: Strip) => setOpened((now) => (now === strip ? "" : strip)));
  useUndo({ undo: () => mayPost && does.undo(), redo: () => mayPost && does.redo() });
  return (
    <>
      <RoomHead>
        <Says toGo={sheet.to_go ?? 0} posted={sheet.posted ?? 0} opened={opened} toggle={toggle} />
        {beside}
        <Space />
        <Does toGo={sheet.to_go ?? 0} posted={sheet.posted ?? 0} does={does} opened={opened} toggle={toggle} />
      </RoomHead>
      <RowOf mt="0" pr="14" justifyContent="flex-end">
        <PartLinks
          label={words.posting.lenses}
          parts={LENSES.filter(([to]) => mayPost || !WRITERS.includes(to))}
          mr="auto"
          flexWrap="nowrap"
        />
        {children}
      </RowOf>
      <Suspense fallback={null}>
        {opened === "status" && mayPost && <StatusDate shut={() => toggle("")} />}
        {opened === "note" && <PageNote note={sheet.note ?? ""} />}
      </Suspense>
    </>
  );
}

interface Part {
  toGo: number;
  posted: number;
  opened: Strip;
  toggle: (strip: Strip) => void;
}

const Says = memo(function Says({ toGo, posted, opened, toggle }: Part) {
  const { page, mayPost } = usePlace();
  const effect = useLastEffect();
  return (
    <>
      <h1 data-tip={format.fullDay(page.status)}>
        {words.posting.title(page.number, "")}
        {mayPost ? (
          <Button
            look="link"
            fontSize="inherit"
            fontWeight="inherit"
            aria-expanded={opened === "status"}
            data-tip={words.posting.changeDate}
            onClick={() => toggle("status")}
          >
            {format.weekDay(page.status)}
          </Button>
        ) : (
          format.weekDay(page.status)
        )}
      </h1>
      <Told role="status">
        {mayPost
          ? words.posting.counts(toGo, posted)
          : page.state === "dry"
            ? words.posting.dryNote
            : words.posting.readerNote}
        {effect?.subject === "" && `. ${effect.label.charAt(0).toUpperCase()}${effect.label.slice(1)}`}
      </Told>
    </>
  );
});

interface DoesProps extends Part {
  does: Pick<Posting, "undo" | "redo" | "close" | "open" | "takeBack">;
}

const Does = memo(function Does({ toGo, posted, does, opened, toggle }: DoesProps) {
  const { project, page, mayPost, person, frame } = usePlace();
  const navigate = useNavigate();
  const mayOpen = person.role !== "reader" && page.state === "dry" && frame.pages.at(-1)?.code === page.code;
  const takeBack = async () => {
    const done = await does.takeBack();
    if (done) navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(done.page)}/posting`);
  };
  return (
    <>
      <Button
        look="quiet"
        aria-expanded={opened === "note"}
        aria-label={words.posting.pageNote}
        onClick={() => toggle("note")}
      >
        {words.posting.noteShort}
      </Button>
      {mayPost && (
        <>
          <Button look="quiet" onClick={does.undo} data-tip="Ctrl+Z">
            {words.sheet.undo}
          </Button>
          <Button look="quiet" onClick={does.redo} data-tip="Ctrl+Shift+Z">
            {words.sheet.redo}
          </Button>
          {posted === 0 && frame.pages.length > 1 && (
            <Button look="quiet" data-tip={words.posting.takeBackHint} onClick={takeBack}>
              {words.posting.takeBack}
            </Button>
          )}
          <ClosePage toGo={toGo} close={does.close} />
        </>
      )}
      {mayOpen && <ClosePage close={does.open} opening />}
    </>
  );
});

interface CloseProps {
  toGo?: number;
  close: (next: string) => Promise<{ page: string }>;
  /** Only the next page is opened: this one is dry. */
  opening?: boolean;
}

/** Closing can't be undone, so it asks. */
function ClosePage({ toGo = 0, close, opening }: CloseProps) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button look="seal" onClick={() => setAsking(true)}>
        {opening ? words.posting.openNext : words.posting.close}
      </Button>
      {asking && (
        <Suspense fallback={null}>
          <CloseDialog toGo={toGo} close={close} opening={opening} shut={() => setAsking(false)} />
        </Suspense>
      )}
    </>
  );
}

import { type ChangeEvent, useMemo, useRef, useState } from "react";
import { Bones, format, groupBy, Notice, oneOf, useAddressed, usePlace } from "../../shared";
import { lineOf, ReadSheet, type SheetColumn } from "../../shared/sheet";
import { Act, Button, Input, RowOf, Select, Soft, Told } from "../../shared/ui";
import { words } from "../../shared/words/feeds";
import { FeedAbout, FeedColumns } from "./FeedForms";
import { PageHead } from "./PageHead";
import { useFeeds, type Waiting } from "./useFeeds";
import { usePosting } from "./usePosting";

const RIGHTED: ["person", "activity"] = ["person", "activity"];
const w = words.feeds;
const VIEW = { feed: "" };
type Column = SheetColumn<Waiting>;
const FIELDS: Record<string, string[]> = {
  timesheet: ["person", "date", "activity", "hours", "overtime", "remaining", "id", "text"],
  cost: ["id", "date", "activity", "amount", "source", "currency", "reference", "order", "text"],
};
const idOf = (r: Waiting) => r.id;
const nameOf = (r: Waiting) => `${w.verdict} ${r.number}`;

const text = (key: keyof Waiting & string, title: string, width: number, more: Partial<Column> = {}): Column => ({
  key,
  title,
  width,
  text: (r) => String(r[key] ?? ""),
  ...more,
});

type Do = (row: Waiting, what: "late" | "discard") => void;
const maybeLate = (r: Waiting) => r.may_be_late;

function columnsOf(kind: string, act: Do): Column[] {
  const wrong = (r: Waiting, field: string) => (r.field === field ? "entry late" : "entry");
  return [
    text("number", "", 44, { look: () => "soft" }),
    text("verdict", w.verdict, 70, {
      left: true,
      text: (r) => w.verdicts[r.verdict] ?? r.verdict,
      look: (r) => (r.verdict === "refused" ? "late" : "name"),
    }),
    text("day", w.fields.date ?? "", 88, {
      left: true,
      text: (r) => (/^\d{4}-/.test(r.day) ? format.weekDay(r.day) : r.day),
      look: (r) => (r.field === "date" ? "late" : undefined),
    }),
    ...(kind === "timesheet"
      ? [
          text("person", w.fields.person ?? "", 170, {
            left: true,
            writes: "person",
            text: (r) => r.resource || r.person,
            typed: (r) => r.person,
            look: (r) => wrong(r, "person"),
          }),
        ]
      : []),
    text("activity", w.fields.activity ?? "", 170, {
      left: true,
      writes: "activity",
      text: (r) => (r.on ? `${r.on} ${r.name}` : r.activity),
      typed: (r) => r.activity,
      look: (r) => wrong(r, "activity"),
    }),
    ...(kind === "timesheet"
      ? [
          text("hours", w.fields.hours ?? "", 74, {
            hint: (r) => r.hours,
            look: (r) => (r.field === "hours" ? "late" : undefined),
          }),
          text("overtime", w.fields.overtime ?? "", 66),
          text("remaining", w.fields.remaining ?? "", 74),
        ]
      : [
          text("amount", w.fields.amount ?? "", 92, {
            text: (r) => (Number.isNaN(Number(r.amount)) ? r.amount : format.money(r.amount)),
            look: (r) => (r.field === "amount" ? "late" : undefined),
          }),
          text("source", w.fields.source ?? "", 64, { left: true }),
          text("ref", w.fields.reference ?? "", 84, { left: true }),
        ]),
    text("reason", w.reason, 170, {
      left: true,
      grow: true,
      text: (r) => [r.reason, r.was && w.was(r.was)].filter(Boolean).join(", ") || r.text,
      hint: (r) => [r.reason, r.was && w.was(r.was), r.text].filter(Boolean).join(". "),
    }),
    {
      key: "act",
      title: w.act,
      width: 130,
      left: true,
      text: (r) => [maybeLate(r) && w.late, w.discard].filter(Boolean).join(", "),
      draw: (r) => (
        <>
          {maybeLate(r) && (
            <Button
              look="link"
              lineHeight="inherit"
              mr="8"
              tabIndex={-1}
              aria-label={w.lateOf(r.number)}
              onClick={() => act(r, "late")}
            >
              {w.late}
            </Button>
          )}
          <Button
            look="link"
            lineHeight="inherit"
            tabIndex={-1}
            aria-label={w.discardOf(r.number)}
            onClick={() => act(r, "discard")}
          >
            {w.discard}
          </Button>
        </>
      ),
    },
  ];
}

/** Timesheets and costs from files and addresses: what came, what is new, what has to be put right, and posting it. */
export function FeedsScreen() {
  const { project, mayPost } = usePlace();
  const posting = usePosting();
  const [{ feed: chosen }, show] = useAddressed(`${project}/feeds`, VIEW);
  const feeds = useFeeds(chosen);
  const { list, feed, tray } = feeds;
  const [form, setForm] = useState<"" | "new" | "about" | "columns">("");
  const file = useRef<HTMLInputElement>(null);
  const kind = feed?.kind ?? "timesheet";
  const act = useRef<Do>(() => undefined);
  act.current = (row, what) => feeds.right([row.id], { [what]: true });
  const columns = useMemo(() => columnsOf(kind, (r, what) => act.current(r, what)), [kind]);
  const rows = tray.data?.rows;
  const lines = useMemo(() => (rows ?? []).map((row) => lineOf(row.id, row)), [rows]);
  if (posting.sheet.isPending || list.isPending) return <Bones />;
  if (!posting.sheet.data) return <Notice bad>{posting.sheet.error?.message}</Notice>;
  if (!list.data) return <Notice bad>{list.error.message}</Notice>;
  const taken = async (event: ChangeEvent<HTMLInputElement>) => {
    const [given] = event.target.files ?? [];
    if (given) await feeds.fetch(await given.text());
    if (file.current) file.current.value = "";
  };
  const ready = (tray.data?.new ?? 0) + (tray.data?.changed ?? 0);
  const wrong = feeds.refused ?? posting.refused;
  const told = tray.data && feed ? w.counts(tray.data.new, tray.data.changed, tray.data.refused) : "";
  return (
    <>
      <PageHead posting={posting} sheet={posting.sheet.data}>
        {list.data.feeds.length > 0 && (
          <Select aria-label={w.feed} value={String(feed?.id ?? "")} onChange={(e) => show({ feed: e.target.value })}>
            {list.data.feeds.map((f) => (
              <option key={f.id} value={f.id}>
                {f.name}
              </option>
            ))}
          </Select>
        )}
        {feed?.address && <Button onClick={() => void feeds.fetch(null)}>{w.fetch}</Button>}
        {feed && (
          <>
            <Button onClick={() => file.current?.click()}>{w.drop}</Button>
            <Input
              ref={file}
              type="file"
              accept=".csv,.json,text/csv,application/json"
              hidden
              aria-label={w.drop}
              onChange={taken}
            />
          </>
        )}
        <Button aria-expanded={form === "new"} onClick={() => setForm(form === "new" ? "" : "new")}>
          {w.add}
        </Button>
        {mayPost && feed && (
          <Button look="seal" disabled={ready === 0} onClick={() => void feeds.post()}>
            {w.post(ready)}
          </Button>
        )}
      </PageHead>
      {form === "new" && <FeedAbout save={(given) => feeds.set(given, true)} shut={() => setForm("")} />}
      {form === "about" && feed && (
        <FeedAbout
          feed={feed}
          save={(given) => feeds.set(given, false)}
          remove={feeds.remove}
          shut={() => setForm("")}
        />
      )}
      {wrong && <Notice bad>{wrong}</Notice>}
      {!feed && <Notice>{w.none}</Notice>}
      {feed && (
        <RowOf pt="0" px="14" pb="8">
          <Told role="status">{[told, feeds.told].filter(Boolean).join(". ")}</Told>
          <Soft truncate maxW="300px" data-tip={feed.address} data-free="">
            {feed.address}
          </Soft>
          <Button
            look="quiet"
            aria-expanded={form === "about"}
            onClick={() => setForm(form === "about" ? "" : "about")}
          >
            {w.address}
          </Button>
          {(tray.data?.heads.length ?? 0) > 0 && (
            <Button
              look="quiet"
              aria-expanded={form === "columns"}
              onClick={() => setForm(form === "columns" ? "" : "columns")}
            >
              {w.columns}
            </Button>
          )}
          {(tray.data?.needed.length ?? 0) > 0 && (tray.data?.heads.length ?? 0) > 0 && (
            <Act role="alert">{w.needed((tray.data?.needed ?? []).map((f) => w.fields[f] ?? f))}</Act>
          )}
        </RowOf>
      )}
      {feed && tray.data && (form === "columns" || (tray.data.needed.length > 0 && tray.data.heads.length > 0)) && (
        <FeedColumns tray={tray.data} fields={FIELDS[kind] ?? []} save={(c) => void feeds.set({ columns: c }, false)} />
      )}
      {feed && tray.isError && <Notice bad>{tray.error.message}</Notice>}
      {feed && tray.data && lines.length === 0 && <Notice>{w.empty}</Notice>}
      {feed && lines.length > 0 && (
        <ReadSheet
          label={w.label(feed.name)}
          lines={lines}
          columns={columns}
          codeOf={idOf}
          nameOf={nameOf}
          first="activity"
          can={(_, c) => c.writes !== undefined}
          write={(cells) => {
            for (const [text, own] of groupBy(cells, (c) => `${c.column.writes}:${c.text}`)) {
              const [first] = own;
              const field = oneOf(RIGHTED, first?.column.writes);
              if (first && text)
                feeds.right(
                  own.map((c) => c.row.id),
                  { [field]: first.text },
                  { row: first.row.id, field, text: first.text },
                );
            }
          }}
          troubles={feeds.troubles}
          waiting={feeds.waiting}
          drop={feeds.drop}
          keys={(event, row, column) => {
            const discard = (event.ctrlKey || event.metaKey) && event.key === "Delete";
            if (discard) act.current(row, "discard");
            else if (event.key === "Enter" && column.key === "act")
              act.current(row, maybeLate(row) ? "late" : "discard");
            else return false;
            return true;
          }}
        />
      )}
    </>
  );
}

import { chakra } from "@chakra-ui/react";
import { lazy, Suspense, useRef, useState } from "react";
import { Bones, format, LookAhead, Notice, Sign, useAddressed, usePlace } from "../../shared";
import { Anchor, Button, DataTable, Input, RowOf, ScrollBox, Soft, Told, Why } from "../../shared/ui";
import { words } from "../../shared/words/asking";
import { PageHead } from "./PageHead";
import { type Answer, type Asking, type Changed, useAsking } from "./useAsking";
import { usePosting } from "./usePosting";

const AskDialog = lazy(() => import("./AskDialog").then((m) => ({ default: m.AskDialog })));
const w = words.asking;
const VIEW = { weeks: "0" };
const CELLS = ["percent", "remaining", "actual_start", "actual_finish", "carry_to"] as const;

/** Who was asked and who answered; what they said against what stands, to be taken, changed or left. */
export function AnswersScreen() {
  const { project, page, mayPost } = usePlace();
  const posting = usePosting();
  const [view, show] = useAddressed(`${project}/answers`, VIEW);
  const weeks = Number(view.weeks) || 0;
  const asking = useAsking(weeks);
  const [dialog, setDialog] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const a = asking.asking.data;
  if (posting.sheet.isPending || asking.asking.isPending) return <Bones />;
  if (!posting.sheet.data) return <Notice bad>{posting.sheet.error?.message}</Notice>;
  if (!a) return <Notice bad>{asking.asking.error?.message}</Notice>;
  const late = a.requests.filter((r) => r.answered < r.asked);
  const silent = a.requests.filter((r) => r.answered === 0);
  return (
    <>
      <PageHead posting={posting} sheet={posting.sheet.data}>
        {mayPost && <Button onClick={() => setDialog(true)}>{w.ask}</Button>}
        {mayPost && late.length > 0 && (
          <Button onClick={() => asking.remind(late.map((r) => r.id))}>{w.remind(late.length)}</Button>
        )}
        {mayPost && (
          <>
            <input
              ref={file}
              type="file"
              accept=".xlsx,.csv"
              hidden
              aria-label={w.bring}
              onChange={(e) => {
                const chosen = e.target.files?.[0];
                if (chosen) void asking.bring(chosen);
                e.target.value = "";
              }}
            />
            <Button onClick={() => file.current?.click()}>{w.bring}</Button>
          </>
        )}
        {mayPost && a.inbox ? <Button onClick={() => asking.inbox()}>{w.inbox(a.inbox)}</Button> : null}
        <LookAhead />
      </PageHead>
      {dialog && (
        <Suspense fallback={null}>
          <AskDialog
            asking={asking}
            weeks={weeks}
            setWeeks={(n) => show({ weeks: String(n) })}
            shut={() => setDialog(false)}
          />
        </Suspense>
      )}
      {asking.refused && <Notice bad>{asking.refused}</Notice>}
      <ScrollBox
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          const dropped = e.dataTransfer.files[0];
          if (mayPost && dropped) void asking.bring(dropped);
        }}
      >
        {asking.told.length > 0 && (
          <RowOf role="status" mt="0" mb="8">
            <Told>{asking.told.join(". ")}</Told>
            <Button look="link" onClick={() => asking.tell([])}>
              {w.seen}
            </Button>
          </RowOf>
        )}
        <Asked requests={a.requests} outbox={a.outbox} />
        <Tray of={a} asking={asking} may={mayPost} />
        {silent.length > 0 && (
          <p>
            <strong>{w.silent}</strong> {silent.map((r) => w.rowsOf(r.name, r.asked)).join(", ")}
          </p>
        )}
        {a.together && a.tray.length > 0 && (
          <p>
            <Soft>{w.together(a.together, format)}</Soft>{" "}
            {mayPost && (
              <Button onClick={() => asking.decide({ take: a.tray.filter((x) => !x.refused).map((x) => x.id) })}>
                {w.takeAll(a.together.count)}
              </Button>
            )}
          </p>
        )}
        {a.requests.length === 0 && <Notice>{page.state === "wet" ? w.none : w.dry}</Notice>}
      </ScrollBox>
    </>
  );
}

/** Who was asked, and how far their answers are. */
function Asked({ requests, outbox }: { requests: Asking["requests"]; outbox?: string }) {
  const { project, page } = usePlace();
  if (!requests.length) return null;
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/asking`;
  const until = requests.find((r) => r.until)?.until;
  const answered = requests.filter((r) => r.answered > 0).length;
  return (
    <details>
      <summary>
        {w.askedOf(requests.length, answered)}
        {until && `, ${w.untilDay(format.weekDay(until), format.clock(until))}`}
      </summary>
      <DataTable
        width="auto"
        rows={requests}
        keyOf={(r) => r.id}
        columns={[
          { title: w.who, head: true, cell: (r) => r.name },
          { title: w.answered, kind: "num", cell: (r) => w.of(r.answered, r.asked) },
          { title: w.how, cell: (r) => (r.signs_in ? w.byPage : r.email ? w.bySheet : w.byHand) },
          {
            title: w.mail,
            cell: (r) => (
              <Soft>
                {[r.email, r.sent, r.reminded && w.remindedOn(format.day(r.reminded))].filter(Boolean).join(", ")}
              </Soft>
            ),
          },
          {
            title: w.sheet,
            cell: (r) => (
              <>
                {["xlsx", "pdf"].map((form) => (
                  <Anchor key={form} look="link" mr="8" href={`${base}/${r.id}/sheet.${form}`} download>
                    {form.toUpperCase()}
                  </Anchor>
                ))}
              </>
            ),
          },
        ]}
      />
      {outbox && (
        <Anchor look="link" href={outbox} target="_blank" rel="noreferrer">
          {w.outbox}
        </Anchor>
      )}
    </details>
  );
}

interface TrayProps {
  of: Asking;
  asking: ReturnType<typeof useAsking>;
  may: boolean;
}

/** The answers, person by person: what they say against what stands, and what taking them would move. */
function Tray({ of, asking, may }: TrayProps) {
  const { tell } = usePlace();
  const [open, setOpen] = useState<number | null>(null);
  const [changed, setChanged] = useState<Changed>({});
  const names = [...new Set(of.tray.map((x) => x.name))];
  const change = (id: number, key: string, text: string) =>
    setChanged((now) => ({ ...now, [id]: { ...now[id], [key]: text } }));
  const doTake = async (ids: number[]) => {
    const own = Object.fromEntries(ids.flatMap((id) => (changed[id] ? [[id, changed[id]]] : [])));
    if (await asking.decide({ take: ids }, own)) setOpen(null);
  };
  const editor = (x: Answer) =>
    open === x.id && (
      <RowOf mt="0" pl="20" role="group" aria-label={w.changeOf(x.code)}>
        {CELLS.map((key) => (
          <label key={key}>
            <Soft>{w.cells[key]} </Soft>
            <Input
              width="92px"
              value={changed[x.id]?.[key] ?? x.cells[key] ?? ""}
              aria-invalid={x.field === key || undefined}
              onChange={(e) => change(x.id, key, e.target.value)}
            />
          </label>
        ))}
        <Button look="seal" onClick={() => doTake([x.id])}>
          {w.takeSo}
        </Button>
      </RowOf>
    );
  if (!of.tray.length) return of.requests.length ? <p>{w.empty}</p> : null;
  return (
    <DataTable
      aria-label={w.tray}
      groups={names.map((name) => {
        const own = of.tray.filter((x) => x.name === name);
        const first = own[0];
        const well = own.filter((x) => !x.refused).map((x) => x.id);
        return [
          <RowOf key={name} mt="0">
            <span>{name}</span>
            {first && (
              <Soft fontWeight="400">{w.via[first.via]?.(format.weekDay(first.at), format.clock(first.at))}</Soft>
            )}
            {may && well.length > 0 && <Button onClick={() => doTake(well)}>{w.takeAllOf(name)}</Button>}
          </RowOf>,
          own,
        ] as const;
      })}
      keyOf={(x) => x.id}
      columns={[
        {
          title: w.activity,
          head: true,
          cell: (x) => (
            <>
              <Sign code={x.code} />{" "}
              <Button look="link" fontWeight="400" onClick={() => tell({ about: "activity", code: x.code })}>
                {x.code} {x.activity}
              </Button>
            </>
          ),
        },
        {
          title: w.answer,
          cell: (x) => (
            <>
              <chakra.span color="wet">{x.says}</chakra.span>
              {x.note && <Soft as="div">“{x.note}”</Soft>}
              {x.refused && <Why role="alert">{x.refused}</Why>}
            </>
          ),
        },
        {
          title: w.stands,
          cell: (x) => (x.since ? <Why as="span">{w.posted(x.stands)}</Why> : <Soft>{x.stands}</Soft>),
        },
        {
          title: w.moves,
          kind: "num",
          cell: (x) => (x.moves == null ? "–" : x.moves ? format.drift(x.moves) : w.nothing),
        },
        { title: w.finish, kind: "num", cell: (x) => (x.finish ? format.drift(x.finish) : "–") },
        { title: "EAC", kind: "num", cell: (x) => (x.eac ? format.signed(x.eac) : "–") },
        {
          cell: (x) =>
            may && (
              <RowOf mt="0" gap="4" flexWrap="nowrap">
                <Button disabled={!!x.refused} aria-label={w.takeOf(x.code)} onClick={() => doTake([x.id])}>
                  {w.take}
                </Button>
                <Button
                  look="link"
                  aria-expanded={open === x.id}
                  aria-label={w.changeOf(x.code)}
                  onClick={() => setOpen(open === x.id ? null : x.id)}
                >
                  {w.change}
                </Button>
                <Button look="link" aria-label={w.leaveOf(x.code)} onClick={() => asking.decide({ leave: [x.id] })}>
                  {w.leave}
                </Button>
              </RowOf>
            ),
        },
      ]}
      below={editor}
    />
  );
}

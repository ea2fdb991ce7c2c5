import { Box } from "@chakra-ui/react";
import { type KeyboardEvent, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { format, keys, Mark, oneOf, usePlace } from "../../shared";
import { revisionOf, usePreview } from "../../shared/book";
import { Button, DataTable, Input, OnOff, RowOf, Select, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/planned";
import type { Codes, Filling, usePosting, Way } from "./usePosting";

const w = words.planned;
const PARTS: Filling[] = ["progress", "hours", "cost"];
const WAYS: [Way, ...Way[]] = ["to_date", "finished"];

interface Props {
  kind: "planned" | "carry";
  posting: ReturnType<typeof usePosting>;
  /** How many need an entry, and the codes that are shown and selected. */
  wants: number;
  shown: string[] | null;
  picked: string[];
  shut: () => void;
}

/** Posting as planned, or carrying forward: of the page, the rows shown or those selected; said before it is done. */
export function AtOnce({ kind, posting, wants, shown, picked, shut }: Props) {
  const { project, page } = usePlace();
  const [scope, setScope] = useState(picked.length ? "picked" : shown ? "some" : "page");
  const [way, setWay] = useState<Way>("to_date");
  const [parts, setParts] = useState(PARTS);
  const [to, setTo] = useState("");
  const asked = to.trim();
  const codes: Codes = scope === "picked" ? picked : scope === "some" ? (shown ?? []) : null;
  const path = { project, page: page.code };
  const body = { revision: revisionOf(project), activities: codes };
  const tried = usePreview(
    keys.page(project, page.code).tried(kind, way, `${parts} ${asked}`, codes, body.revision),
    (signal) =>
      take(
        kind === "planned"
          ? client.POST("/api/projects/{project}/pages/{page}/posting/planned", {
              params: { path },
              body: { ...body, way, parts },
              signal,
            })
          : client.POST("/api/projects/{project}/pages/{page}/posting/carry", {
              params: { path },
              body: { ...body, to: asked },
              signal,
            }),
      ),
    kind === "planned" || asked !== "",
    kind === "planned" ? 0 : undefined,
  );
  const n = tried.data?.stated.length ?? 0;
  const ready = n > 0 && tried.fresh;
  const act = async () => {
    if (!ready) return;
    const done = await (kind === "planned" ? posting.planned(way, codes, parts) : posting.carry(asked, codes));
    if (done) shut();
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === "Escape") shut();
    else if (event.key === "Enter" && event.target instanceof HTMLInputElement) void act();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const skipped = tried.data?.skipped;
  const due = skipped?.posted ? w.nothing.posted(skipped.posted) : w.nothing.none;
  const all = kind === "planned" ? (parts.length ? w.nothing.page : w.nothing.parts) : due;
  const nothing = scope === "page" ? all : kind === "planned" ? w.nothing.chosen : w.nothing.finished;
  const title = kind === "planned" ? w.title : w.carryTitle;
  return (
    <RowOf pt="0" px="14" pb="8" role="group" aria-label={title} onKeyDown={onKey}>
      <strong>{title}</strong>
      <Select aria-label={w.of} value={scope} autoFocus={kind === "planned"} onChange={(e) => setScope(e.target.value)}>
        <option value="page">{kind === "planned" ? w.scope.page(wants) : w.scope.due}</option>
        {shown && <option value="some">{w.scope.some(shown.length)}</option>}
        {picked.length > 0 && <option value="picked">{w.scope.picked(picked.length)}</option>}
      </Select>
      {kind === "planned" ? (
        <>
          <Select aria-label={w.way} value={way} onChange={(e) => setWay(oneOf(WAYS, e.target.value))}>
            {Object.entries(w.ways).map(([key, word]) => (
              <option key={key} value={key}>
                {word}
              </option>
            ))}
          </Select>
          {PARTS.map((part) => (
            <OnOff
              key={part}
              on={parts.includes(part)}
              set={(on) => setParts(PARTS.filter((p) => (p === part ? on : parts.includes(p))))}
            >
              {w.heads[part]}
            </OnOff>
          ))}
        </>
      ) : (
        <Input
          aria-label={w.to}
          placeholder={w.toHint}
          width="110px"
          autoFocus
          value={to}
          aria-invalid={tried.isError || undefined}
          aria-describedby="at-once-says"
          onChange={(e) => setTo(e.target.value)}
        />
      )}
      <Button look="seal" disabled={!ready} onClick={act}>
        {kind === "planned" ? w.act(n) : w.carry(n)}
      </Button>
      <Button onClick={shut}>{w.cancel}</Button>
      <div id="at-once-says" role="status" style={{ flexBasis: "100%" }}>
        {tried.isError ? (
          <Why>{tried.error.message}</Why>
        ) : tried.data?.stated.length === 0 ? (
          <>
            <Soft>{nothing}</Soft>
            <Stays left={tried.data.left} />
          </>
        ) : tried.data ? (
          <Says kind={kind} tried={tried.data} />
        ) : (
          <Soft>{kind === "carry" && !asked ? w.when : w.doing}</Soft>
        )}
      </div>
    </RowOf>
  );
}

/** What it would do: how many are stated, what moves, what becomes critical; and what goes onto each activity. */
function Says({ kind, tried }: { kind: Props["kind"]; tried: Schemas["TriedOut"] }) {
  const finished = tried.stated.filter((s) => s.finished).length;
  const going = tried.stated.filter((s) => s.says).length - finished;
  const lines = [
    kind === "planned" ? w.counts(finished, going) : w.carries(tried.stated.length),
    kind === "carry" && tried.skipped.posted ? w.leaves(tried.skipped.posted) : "",
    w.finish(format.fullDay(tried.finish)),
    tried.moved.length > 0 && w.moves(tried.moved.length),
    tried.critical.length > 0 && w.critical(tried.critical.length),
    tried.no_longer_critical.length > 0 && w.notCritical(tried.no_longer_critical.length),
    ...(["ev", "ac", "eac"] as const).map(
      (k) => tried.change[k] && `${k.toUpperCase()} ${format.signed(tried.change[k] ?? "")}`,
    ),
  ].filter(Boolean);
  const reckons = tried.stated.some((s) => s.reckoned);
  const moved = new Map(tried.moved.map((m) => [m.code, m.days]));
  return (
    <>
      <div>{lines.join(", ")}.</div>
      <Box maxH="190px" overflowY="auto" mt="4" tabIndex={0} role="region" aria-label={w.rows}>
        <DataTable
          width="auto"
          rows={tried.stated}
          keyOf={(s) => s.code}
          columns={[
            {
              title: w.columns.activity,
              cell: (s) => (
                <>
                  <Mark mark={s.mark} size={11} /> {s.code} {s.name}
                </>
              ),
            },
            { title: w.heads.progress, cell: (s) => s.says },
            ...(kind === "carry"
              ? [{ title: w.moved, cell: (s: Schemas["Stated"]) => format.drift(moved.get(s.code) ?? 0) }]
              : [
                  { title: w.hours, kind: "num" as const, cell: (s: Schemas["Stated"]) => s.hours },
                  {
                    title: w.cost,
                    kind: "num" as const,
                    cell: (s: Schemas["Stated"]) => s.cost && format.money(s.cost),
                  },
                  reckons && {
                    title: w.reckoned,
                    kind: "num" as const,
                    cell: (s: Schemas["Stated"]) => s.reckoned && <i>{format.money(s.reckoned)}</i>,
                  },
                ]),
          ]}
        />
        <Stays left={tried.left} />
      </Box>
    </>
  );
}

/** What is posted already and stays, where the plan says something else. */
function Stays({ left }: { left: Schemas["LeftOut"][] }) {
  if (!left.length) return null;
  return (
    <DataTable
      width="auto"
      caption={w.stays(left.length)}
      rows={left}
      keyOf={(x) => `${x.code} ${x.part} ${x.of}`}
      columns={[
        { title: w.columns.activity, cell: (x) => `${x.code} ${x.name}` },
        { title: w.what, cell: (x) => [w.heads[x.part], x.of].filter(Boolean).join(", ") },
        { title: w.posted, cell: (x) => x.posted },
        { title: w.asPlanned, cell: (x) => x.planned },
      ]}
    />
  );
}

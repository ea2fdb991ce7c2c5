import { type KeyboardEvent, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { format, keys, Mark, oneOf, usePlace } from "../../shared";
import { revisionOf, usePreview } from "../../shared/book";
import { Button, Input, RowOf, Select, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/planned";
import type { Codes, usePosting, Way } from "./usePosting";

const w = words.planned;
const MOST = 5;
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
  const [to, setTo] = useState("");
  const asked = to.trim();
  const codes: Codes = scope === "picked" ? picked : scope === "some" ? (shown ?? []) : null;
  const path = { project, page: page.code };
  const body = { revision: revisionOf(project), activities: codes };
  const tried = usePreview(
    keys.page(project, page.code).tried(kind, way, asked, codes, body.revision),
    (signal) =>
      take(
        kind === "planned"
          ? client.POST("/api/projects/{project}/pages/{page}/posting/planned", {
              params: { path },
              body: { ...body, way },
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
    const done = await (kind === "planned" ? posting.planned(way, codes) : posting.carry(asked, codes));
    if (done) shut();
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === "Escape") shut();
    else if (event.key === "Enter" && event.target instanceof HTMLInputElement) void act();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const all = kind === "planned" ? w.nothing.page : w.nothing.due;
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
        <Select aria-label={w.way} value={way} onChange={(e) => setWay(oneOf(WAYS, e.target.value))}>
          {Object.entries(w.ways).map(([key, word]) => (
            <option key={key} value={key}>
              {word}
            </option>
          ))}
        </Select>
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
          <Soft>{nothing}</Soft>
        ) : tried.data ? (
          <Says kind={kind} tried={tried.data} />
        ) : (
          <Soft>{kind === "carry" && !asked ? w.when : w.doing}</Soft>
        )}
      </div>
    </RowOf>
  );
}

/** What it would do: how many are stated, what moves, what becomes critical, and the first of each by code and mark. */
function Says({ kind, tried }: { kind: Props["kind"]; tried: Schemas["TriedOut"] }) {
  const finished = tried.stated.filter((s) => s.finished).length;
  const lines = [
    kind === "planned" ? w.counts(finished, tried.stated.length - finished) : w.carries(tried.stated.length),
    w.finish(format.fullDay(tried.finish)),
    tried.moved.length > 0 && w.moves(tried.moved.length),
    tried.critical.length > 0 && w.critical(tried.critical.length),
    tried.no_longer_critical.length > 0 && w.notCritical(tried.no_longer_critical.length),
    ...(["ev", "eac"] as const).map(
      (k) => tried.change[k] && `${k.toUpperCase()} ${format.signed(tried.change[k] ?? "")}`,
    ),
  ].filter(Boolean);
  const rows =
    kind === "planned" ? tried.stated : tried.moved.map((m) => ({ ...m, mark: "", says: format.drift(m.days) }));
  return (
    <>
      <div>{lines.join(", ")}.</div>
      <Soft>
        {rows.slice(0, MOST).map((s) => (
          <span key={s.code} style={{ marginRight: "12px" }}>
            {s.mark && <Mark mark={s.mark} size={11} />} {s.code} {s.name}: {s.says}
          </span>
        ))}
        {rows.length > MOST && w.more(rows.length - MOST)}
      </Soft>
    </>
  );
}

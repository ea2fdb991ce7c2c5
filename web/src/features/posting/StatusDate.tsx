import { useQueryClient } from "@tanstack/react-query";
import { type KeyboardEvent, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { format, keys, usePlace } from "../../shared";
import { refresh, revisionOf, usePreview, useWrites } from "../../shared/book";
import { Button, Input, RowOf, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/status";

const w = words.status;
const MOST = 6;

/** The status date of the open page, changed in place: what another would do is said before it is done. */
export function StatusDate({ shut }: { shut: () => void }) {
  const { project, page, setEffect } = usePlace();
  const queries = useQueryClient();
  const [typed, setTyped] = useState(format.spokenDay(page.status));
  const asked = typed.trim();
  const path = { project, page: page.code };
  const move = usePreview(
    keys.page(project, page.code).status(asked),
    (signal) => {
      const body = { revision: revisionOf(project), status: asked };
      return take(client.POST("/api/projects/{project}/pages/{page}/status", { params: { path }, body, signal }));
    },
    asked !== "" && asked !== format.spokenDay(page.status),
  );
  const writes = useWrites({
    project,
    part: `status.${page.code}`,
    read: () => queries.refetchQueries({ queryKey: keys.page(project, page.code).posting }),
  });
  const ready = move.fresh;
  const set = async () => {
    if (!ready) return;
    const done = await writes.write((revision) => {
      const body = { revision, status: asked };
      return take(client.PATCH("/api/projects/{project}/pages/{page}/status", { params: { path }, body }));
    });
    if (!done) return;
    setEffect(null);
    refresh(queries, project);
    shut();
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === "Enter") void set();
    else if (event.key === "Escape") shut();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const wrong = writes.refused ?? move.error?.message;
  return (
    <RowOf pt="0" px="14" pb="8" role="group" aria-label={words.posting.changeDate}>
      <label htmlFor="status-date">{w.title}</label>
      <Input
        id="status-date"
        ref={focus}
        width="150px"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onKeyDown={onKey}
        aria-invalid={wrong ? true : undefined}
        aria-describedby="status-says"
      />
      <Button look="seal" disabled={!ready} onClick={set}>
        {w.move}
      </Button>
      <Button onClick={shut}>{w.leave}</Button>
      <div id="status-says" role="status" style={{ flexBasis: "100%" }}>
        {wrong ? <Why>{wrong}</Why> : move.data ? <Says move={move.data} /> : <Soft>{w.hint}</Soft>}
      </div>
    </RowOf>
  );
}

const focus = (input: HTMLInputElement | null) => {
  input?.focus();
  input?.select();
};

/** What moving the date does: rows that come due or cease to be, finishes that move, totals, costs left behind it. */
function Says({ move }: { move: Schemas["StatusOut"] }) {
  const names = (list: Schemas["ActivityName"][]) => list.slice(0, MOST).map((a) => `${a.name} (${a.code})`);
  const more = (list: unknown[]) => (list.length > MOST ? [w.more(list.length - MOST)] : []);
  const lines = [
    w.to(`${format.dayName(move.status)} ${format.fullDay(move.status)}`, format.fullDay(move.finish)),
    move.change.finish && w.finishMoves(format.drift(Number(move.change.finish))),
    ...(["pv", "ev", "eac"] as const).map(
      (key) => move.change[key] && `${key.toUpperCase()} ${format.signed(move.change[key] ?? "")}`,
    ),
    move.comes_due.length > 0 && w.comesDue(move.comes_due.length, [...names(move.comes_due), ...more(move.comes_due)]),
    move.no_longer_due.length > 0 &&
      w.noLongerDue(move.no_longer_due.length, [...names(move.no_longer_due), ...more(move.no_longer_due)]),
    move.moved.length > 0 && w.moves(move.moved.length),
    ...move.after.map((c) => w.after(format.money(c.amount, true), c.on, format.fullDay(c.date))),
  ];
  return <span>{lines.filter(Boolean).join(". ")}.</span>;
}

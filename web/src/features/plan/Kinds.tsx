import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Entry, keys, Notice, oneOf, Pick, usePlace } from "../../shared";
import { type Asked, refresh, useWrites } from "../../shared/book";
import { type ListColumn, ListSheet } from "../../shared/sheet";
import { Button, Input, RowOf, Soft, Told } from "../../shared/ui";
import { words } from "../../shared/words/kinds";
import type { Verb } from "./row";
import { useWholeList } from "./useWholeList";

type Kind = Schemas["ProjectKind"];
type Field = Schemas["KindFieldForm"];
const w = words.kinds;
const OF: ["activity", "project"] = ["activity", "project"];
const HOLDS: [Field["kind"], ...Field["kind"][]] = ["text", "number", "date", "choice", "yes_no", "formula"];
const IN_REPORTS: ["no", "yes"] = ["no", "yes"];
const show = (f: Schemas["KindField"] | Field): Record<string, string> => ({
  code: f.code ?? "",
  name: f.name,
  of: f.of ?? "activity",
  kind: f.kind ?? "text",
  options: (f.options ?? []).join("; "),
  formula: f.formula ?? "",
  in_reports: f.in_reports ?? "no",
});
const make = (cells: Record<string, string>): Field => ({
  code: cells.code ?? "",
  name: cells.name ?? "",
  of: oneOf(OF, cells.of),
  kind: oneOf(HOLDS, cells.kind),
  options: (cells.options ?? "")
    .split(";")
    .map((o) => o.trim())
    .filter(Boolean),
  formula: cells.formula ?? "",
  in_reports: oneOf(IN_REPORTS, cells.in_reports),
});
/** A field as it is written. */
const own = (f: Schemas["KindField"] | Field) => make(show(f));
const COLUMNS: ListColumn[] = [
  { key: "name", title: w.field, width: 150, left: true, grow: true, needed: true, hint: w.addField },
  { key: "of", title: w.of, width: 96, left: true, options: w.scopes },
  { key: "kind", title: w.holds, width: 90, left: true, options: w.holding },
  { key: "options", title: w.options, width: 150, left: true, grow: true },
  { key: "formula", title: w.formula, width: 130, left: true },
  { key: "in_reports", title: w.inReports, width: 90, left: true, options: w.yesNo },
];
const BEGIN = { start: { of: "activity", kind: "text", in_reports: "no" }, needs: ["name"] };

/** The kinds of projects that the organisation keeps: which own fields a project of each and its activities have. */
export function Kinds({ first }: { first: string | undefined }) {
  const { project } = usePlace();
  const queries = useQueryClient();
  const [chosen, choose] = useState(first);
  const [name, setName] = useState("");
  const [told, tell] = useState("");
  const kinds = useQuery({ queryKey: keys.kinds, queryFn: () => take(client.GET("/api/kinds")) });
  const again = () => Promise.all([queries.refetchQueries({ queryKey: keys.kinds }), refresh(queries, project)]);
  const writes = useWrites({ project, part: "kinds", read: again });
  if (!kinds.data) return <Notice bad>{kinds.error?.message}</Notice>;
  const all = kinds.data?.kinds ?? [];
  const kind = all.find((k) => k.name === chosen) ?? all[0];
  const keep = (body: () => Schemas["KindForm"], at: Asked[]) =>
    writes.write(async () => {
      const done = await take(client.PUT("/api/kinds", { body: body() }));
      choose(done.name);
      tell(w.followed(done.followed, done.left));
      await again();
      return done;
    }, at);
  const begin = async () => {
    const kind = { name: "", called: name, revision: 0, fields: [] };
    if (await keep(() => kind, [{ row: "kinds", field: "called", text: name }])) setName("");
  };
  const drop = (gone: Kind) =>
    writes.write(async () => {
      await take(client.DELETE("/api/kinds", { params: { query: { name: gone.name } } }));
      await again();
    });
  const why = writes.troubles["kinds:called"]?.message ?? writes.refused;
  return (
    <section aria-label={w.title}>
      <Told role="status">{why ? <span role="alert">{why}</span> : told || w.help}</Told>
      <RowOf>
        {kind && (
          <Pick
            label={w.kind}
            value={kind.name}
            options={all.map((k): [string, string] => [k.name, k.name])}
            write={choose}
          />
        )}
        <Input
          aria-label={w.newKind}
          placeholder={w.newKind}
          value={name}
          maxLength={100}
          onChange={(e) => setName(e.target.value)}
        />
        <Button disabled={!name.trim()} onClick={begin}>
          {w.begin}
        </Button>
        {kind && <Button onClick={() => drop(kind)}>{w.drop}</Button>}
      </RowOf>
      {kind && <Fields key={kind.name} kind={kind} keep={keep} writes={writes} />}
    </section>
  );
}

interface Part {
  kind: Kind;
  keep: (body: () => Schemas["KindForm"], at: Asked[]) => Promise<unknown>;
  writes: ReturnType<typeof useWrites>;
}

/** What a kind is called, and the fields that it gives. */
function Fields({ kind, keep, writes }: Part) {
  const id = `kind ${kind.name}`;
  const queries = useQueryClient();
  /** As it was read last: a write waits for those before it, and is made of what these left. */
  const now = () =>
    queries.getQueryData<Schemas["ProjectKinds"]>(keys.kinds)?.kinds.find((k) => k.name === kind.name) ?? kind;
  const body = () => ({
    name: kind.name,
    called: kind.name,
    revision: now().revision,
    fields: now().fields.map(own),
  });
  const list = useWholeList<Field>({
    id,
    field: "fields",
    list: kind.fields.map(own),
    show,
    make,
    begin: BEGIN,
    plan: {
      troubles: writes.troubles,
      waiting: writes.waiting,
      drop: writes.drop,
      fill: ([verb]: Verb[], at: Asked[]) => {
        const fields = verb?.do === "set" ? (verb.cells.fields as Field[]) : [];
        const written = () => JSON.stringify(now().fields);
        return keep(
          () => ({ ...body(), fields }),
          at.map((a) => ({ ...a, current: written })),
        );
      },
    },
  });
  return (
    <>
      <RowOf>
        <Entry
          label={w.name}
          value={kind.name}
          write={(called) => keep(() => ({ ...body(), called }), [{ row: id, field: "called", text: called }])}
          trouble={writes.troubles[`${id}:called`]?.message}
        />
        <Soft>{w.used(kind.projects)}</Soft>
      </RowOf>
      <ListSheet {...list.sheet} label={w.fieldsOf(kind.name)} columns={COLUMNS} open name="name" />
    </>
  );
}

import { useState } from "react";
import { client, Problem, type Schemas, sendFile, take } from "../../api";
import { format, Modal } from "../../shared";
import { Button, DataTable, FormLine, Input, RowOf, Select, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/baseline";

const w = words.baselines.elsewhere;
type Found = Schemas["MatchOut"];

interface Props {
  project: string;
  shelf: Schemas["ShelfOut"];
  /** Told when one was taken. */
  taken: () => Promise<unknown>;
}

/** A plan from a file or of another project: what of it matches is looked at first, then it is taken as a baseline. */
export function Elsewhere({ project, shelf, taken }: Props) {
  const [open, setOpen] = useState(false);
  const [file, setFile] = useState<File | null>(null);
  const [other, setOther] = useState("");
  const [form, setForm] = useState({ name: "", reason: "" });
  const [found, setFound] = useState<Found | null>(null);
  const [wrong, setWrong] = useState<{ field?: string; message: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const ask = async (source: { file: File | null; other: string }, apply: boolean) => {
    const { revision } = shelf;
    setBusy(true);
    setWrong(null);
    try {
      const got = source.file
        ? await sendFile<Found>(`projects/${encodeURIComponent(project)}/baselines/of-file`, source.file, {
            ...form,
            apply: String(apply),
            revision: String(revision),
          })
        : await take(
            client.POST("/api/projects/{project}/baselines/of-project", {
              params: { path: { project } },
              body: { project: source.other, ...form, revision, apply },
            }),
          );
      setFound(got);
      if (apply) {
        await taken();
        setOpen(false);
      }
    } catch (no) {
      if (!(no instanceof Problem)) throw no;
      setWrong({ field: no.field, message: no.message });
    }
    setBusy(false);
  };
  const choose = (next: { file: File | null; other: string }) => {
    setFile(next.file);
    setOther(next.other);
    setFound(null);
    if (next.file || next.other) ask(next, false);
  };
  const at = (field: "name" | "reason") => (wrong?.field === field ? wrong.message : "");
  const does = shelf.may_approve && (
    <Button look="seal" disabled={!found || busy} onClick={() => ask({ file, other }, true)}>
      {w.go}
    </Button>
  );
  return (
    <>
      <Button onClick={() => setOpen(true)}>{w.open}</Button>
      {open && (
        <Modal title={w.title} does={does} shut={() => setOpen(false)} width="720px">
          <Soft as="p">{w.help}</Soft>
          <FormLine>
            <span>{w.file}</span>
            <Input
              type="file"
              look="bare"
              accept=".json,.xlsx,.csv,.zip"
              aria-label={w.file}
              onChange={(e) => choose({ file: e.target.files?.[0] ?? null, other: "" })}
            />
          </FormLine>
          {shelf.projects.length > 0 && (
            <FormLine>
              <span>{w.project}</span>
              <Select
                aria-label={w.project}
                value={other}
                onChange={(e) => choose({ file: null, other: e.target.value })}
              >
                <option value="">{w.none}</option>
                {shelf.projects.map((p) => (
                  <option key={p.code} value={p.code}>
                    {p.code} {p.name}
                  </option>
                ))}
              </Select>
            </FormLine>
          )}
          {busy && <p role="status">{w.reading}</p>}
          {wrong && wrong.field !== "name" && wrong.field !== "reason" && (
            <Why role="alert" as="p">
              {wrong.message}
            </Why>
          )}
          {found && <Matches found={found} currency={shelf.currency} />}
          {found &&
            shelf.may_approve &&
            (["name", "reason"] as const).map((key) => (
              <FormLine key={key}>
                <span>{words.baselines[key]}</span>
                <span>
                  <Input
                    aria-label={words.baselines[key]}
                    aria-invalid={at(key) ? true : undefined}
                    value={form[key]}
                    onChange={(e) => setForm({ ...form, [key]: e.target.value })}
                  />
                  {at(key) && (
                    <Why role="alert" as="span">
                      {at(key)}
                    </Why>
                  )}
                </span>
              </FormLine>
            ))}
        </Modal>
      )}
    </>
  );
}

/** How much matches by code, and row by row what does not. */
function Matches({ found, currency }: { found: Found; currency: string }) {
  return (
    <>
      <p role="status">
        <b>{w.matched(found.matched)}</b> {w.budget(currency, format.money(found.budget, true))}
      </p>
      {found.resources.length > 0 && <Soft as="p">{w.resources(found.resources.join(", "))}</Soft>}
      <RowOf alignItems="flex-start" gap="24">
        <Lacking title={w.onlyThere(found.only_there.length)} rows={found.only_there} />
        <Lacking title={w.onlyHere(found.only_here.length)} rows={found.only_here} />
      </RowOf>
    </>
  );
}

const Lacking = ({ title, rows }: { title: string; rows: Schemas["Unmatched"][] }) =>
  rows.length > 0 && (
    <DataTable
      caption={title}
      rows={rows}
      keyOf={(r) => r.code}
      columns={[
        { title: words.columns.activity, cell: (r) => `${r.code} ${r.name}` },
        ...(rows.some((r) => r.row) ? [{ title: w.row, cell: (r: Schemas["Unmatched"]) => r.row }] : []),
      ]}
    />
  );

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { keepFile, keys } from "../../shared";
import { Act, Button, DataTable, Input, RowOf, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/people";

const w = words.people;

/** People from a CSV file: each row with what it would do, then all of them at once. */
export function PeopleList() {
  const queries = useQueryClient();
  const [text, setText] = useState("");
  const [out, setOut] = useState<Schemas["CsvOut"] | null>(null);
  const [wrong, setWrong] = useState("");
  const send = async (body: Schemas["CsvForm"]) => {
    try {
      setOut(await take(client.POST("/api/people/list", { body })));
      setWrong("");
      if (body.apply) queries.invalidateQueries({ queryKey: keys.people });
    } catch (no) {
      if (!(no instanceof Problem)) throw no;
      setOut(null);
      setWrong(no.message);
    }
  };
  const faulty = out?.rows.filter((r) => r.fault).length ?? 0;
  const given = out?.passwords ?? [];
  const passwords = () =>
    keepFile(
      new Blob([given.map((g) => `${g.username},"${g.full_name.replaceAll('"', '""')}",${g.password}\n`).join("")], {
        type: "text/csv",
      }),
      "passwords.csv",
    );
  return (
    <>
      <Soft as="p">{w.listHelp}</Soft>
      <RowOf>
        <Input
          type="file"
          look="bare"
          accept=".csv,text/csv"
          aria-label={w.listFile}
          onChange={async (e) => {
            const file = e.target.files?.[0];
            if (!file) return;
            const read = await file.text();
            setText(read);
            await send({ text: read, apply: false });
          }}
        />
        {out && !out.applied && (
          <Button look="seal" disabled={faulty > 0} onClick={() => send({ text, apply: true })}>
            {w.apply}
          </Button>
        )}
      </RowOf>
      {wrong && <Why role="alert">{wrong}</Why>}
      {out && <p role="status">{out.applied ? w.imported : faulty > 0 ? <Act>{w.faulty(faulty)}</Act> : w.fine}</p>}
      {given.length > 0 && (
        <RowOf>
          <span>{w.passwords}</span>
          <Button onClick={passwords}>{w.takePasswords}</Button>
        </RowOf>
      )}
      {out && (
        <DataTable
          aria-label={w.list}
          rows={out.rows}
          keyOf={(r) => r.line}
          line={(r) => ({ "data-refused": r.fault ? "" : undefined })}
          columns={[
            { title: w.line, kind: "num", cell: (r) => r.line },
            { title: w.username, cell: (r) => r.username },
            { title: w.name, cell: (r) => r.full_name },
            { title: w.does, cell: (r) => (r.fault ? <Act>{r.says}</Act> : r.says) },
          ]}
        />
      )}
      {given.length > 0 && (
        <DataTable
          aria-label={w.passwords}
          rows={given}
          keyOf={(g) => g.username}
          columns={[
            { cell: (g) => g.full_name },
            { cell: (g) => g.username },
            { cell: (g) => <code>{g.password}</code> },
          ]}
        />
      )}
    </>
  );
}

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { keepFile, keys } from "../../shared";
import { Act, Button, Input, RowOf, Soft, Table, Why } from "../../shared/ui";
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
        <Table aria-label={w.list}>
          <thead>
            <tr>
              <th data-num="">{w.line}</th>
              <th>{w.username}</th>
              <th>{w.name}</th>
              <th>{w.does}</th>
            </tr>
          </thead>
          <tbody>
            {out.rows.map((r) => (
              <tr key={r.line} data-refused={r.fault ? "" : undefined}>
                <td data-num="">{r.line}</td>
                <td>{r.username}</td>
                <td>{r.full_name}</td>
                <td>{r.fault ? <Act>{r.says}</Act> : r.says}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {given.length > 0 && (
        <Table aria-label={w.passwords}>
          <tbody>
            {given.map((g) => (
              <tr key={g.username}>
                <td>{g.full_name}</td>
                <td>{g.username}</td>
                <td>
                  <code>{g.password}</code>
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </>
  );
}

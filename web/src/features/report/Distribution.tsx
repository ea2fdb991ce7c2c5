import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { Bones, keys, Notice, usePlace } from "../../shared";
import { Anchor, Button, Input, Note, RowOf, Table, Why } from "../../shared/ui";
import { words } from "../../shared/words/report";
import { useDistribution } from "./useDistribution";

const w = words.report;

/** Who gets the reports of a project. */
export function Distribution() {
  const { project, person } = usePlace();
  const queries = useQueryClient();
  const list = useDistribution();
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [wrong, setWrong] = useState<Problem | null>(null);
  if (list.isPending) return <Bones />;
  if (!list.data) return <Notice bad>{list.error?.message}</Notice>;
  const may = person.role !== "reader";
  const send = async (work: () => Promise<Schemas["SendingOut"]>) => {
    setWrong(null);
    try {
      queries.setQueryData(keys.project(project).distribution, await work());
      return true;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setWrong(error);
      return false;
    }
  };
  const add = async (event: FormEvent) => {
    event.preventDefault();
    const path = { project };
    const body = { name, email };
    const added = await send(() =>
      take(client.POST("/api/projects/{project}/distribution", { params: { path }, body })),
    );
    if (!added) return;
    setName("");
    setEmail("");
  };
  const drop = (pk: number) =>
    send(() =>
      take(client.DELETE("/api/projects/{project}/distribution/{id}", { params: { path: { project, id: pk } } })),
    );
  return (
    <section>
      <h2>{w.list}</h2>
      <Note as="p">{w.listHelp}</Note>
      {list.data.recipients.length === 0 && <Note as="p">{w.nobody}</Note>}
      <Table kind="read" width="auto" minW="520px">
        <thead>
          <tr>
            <th>{w.name}</th>
            <th>{w.email}</th>
            {may && <td />}
          </tr>
        </thead>
        <tbody>
          {list.data.recipients.map((p) => (
            <tr key={p.id}>
              <td>{p.name}</td>
              <td>{p.email}</td>
              {may && (
                <td>
                  <Button look="quiet" aria-label={w.remove(p.name)} onClick={() => drop(p.id)}>
                    ×
                  </Button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </Table>
      {may && (
        <form onSubmit={add}>
          <RowOf>
            <Input
              aria-label={w.name}
              placeholder={w.name}
              value={name}
              onChange={(e) => setName(e.target.value)}
              aria-invalid={wrong?.field === "name"}
            />
            <Input
              aria-label={w.email}
              placeholder={w.email}
              width="260px"
              value={email}
              onChange={(e) => setEmail(e.target.value)}
              aria-invalid={wrong?.field === "email"}
            />
            <Button type="submit">{w.add}</Button>
          </RowOf>
          {wrong && <Why role="alert">{wrong.message}</Why>}
        </form>
      )}
      {list.data.outbox && (
        <RowOf>
          <Anchor look="link" href={list.data.outbox} target="_blank" rel="noreferrer">
            {w.outbox}
          </Anchor>
        </RowOf>
      )}
    </section>
  );
}

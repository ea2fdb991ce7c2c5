import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, keys, Notice, useForm, usePlace, wrongOf } from "../../shared";
import { Anchor, Button, DataTable, Input, Note, RowOf, Why } from "../../shared/ui";
import { words } from "../../shared/words/report";
import { useDistribution } from "./useDistribution";

const w = words.report;
const EMPTY = { name: "", email: "" };

/** Who gets the reports of a project. */
export function Distribution() {
  const { project, person } = usePlace();
  const queries = useQueryClient();
  const list = useDistribution();
  const form = useForm(EMPTY, async (body: typeof EMPTY) =>
    put(await take(client.POST("/api/projects/{project}/distribution", { params: { path: { project } }, body }))),
  );
  const [wrong, setWrong] = useState("");
  const put = (list: Schemas["SendingOut"]) => queries.setQueryData(keys.project(project).distribution, list);
  if (list.isPending) return <Bones />;
  if (!list.data) return <Notice bad>{list.error?.message}</Notice>;
  const may = person.role !== "reader";
  const drop = (id: number) =>
    take(client.DELETE("/api/projects/{project}/distribution/{id}", { params: { path: { project, id } } })).then(
      (list) => {
        setWrong("");
        put(list);
      },
      (no: unknown) => setWrong(wrongOf(no).message),
    );
  const [name, email] = [form.entry("name"), form.entry("email")];
  const why = name.why ?? email.why ?? form.wrong ?? wrong;
  return (
    <section>
      <h2>{w.list}</h2>
      <Note as="p">{w.listHelp}</Note>
      {list.data.recipients.length === 0 && <Note as="p">{w.nobody}</Note>}
      <DataTable
        width="auto"
        minW="520px"
        rows={list.data.recipients}
        keyOf={(p) => p.id}
        columns={[
          { title: w.name, cell: (p) => p.name },
          { title: w.email, cell: (p) => p.email },
          may && {
            cell: (p) => (
              <Button look="quiet" aria-label={w.remove(p.name)} onClick={() => drop(p.id)}>
                ×
              </Button>
            ),
          },
        ]}
      />
      {may && (
        <form onSubmit={form.submit}>
          <RowOf>
            <Input aria-label={w.name} placeholder={w.name} {...form.register("name")} aria-invalid={!!name.why} />
            <Input
              aria-label={w.email}
              placeholder={w.email}
              width="260px"
              {...form.register("email")}
              aria-invalid={!!email.why}
            />
            <Button type="submit">{w.add}</Button>
          </RowOf>
          {why && <Why role="alert">{why}</Why>}
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

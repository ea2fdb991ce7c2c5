import { useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { keys, useOptions, usePlace } from "../../shared";
import { refresh, useWrites } from "../../shared/book";
import { cellKey } from "../../shared/sheet";

export type Board = Schemas["BoardOut"];
export type OptionRow = Board["options"][number];
type Made = Schemas["OptionMade"];

/** Everything that can be done to options; what was refused stands beside what caused it (row “option”, and the field). */
export function useOptionWrites(part: string) {
  const { project } = usePlace();
  const queries = useQueryClient();
  const board = useOptions(project);
  const again = () => queries.invalidateQueries({ queryKey: keys.project(project).options.all });
  const writes = useWrites({ project, part: `options.${part}`, read: again, after: again });
  const path = { project };
  const does = <T>(
    work: (revision: number) => Promise<T>,
    fields: Record<string, string> = {},
    kept?: (field: string) => string | undefined,
  ): Promise<T | null> =>
    writes.write(
      work,
      Object.entries(fields).map(([field, text]) => ({
        row: "option",
        field,
        text,
        current: kept && (() => kept(field)),
      })),
    );
  const now = (id: number) =>
    queries.getQueryData<Board>(keys.project(project).options.board)?.options.find((o) => o.id === id);
  const seen = (id: number) => now(id)?.seen ?? 0;
  return {
    board,
    writes,
    why: (field: string) => writes.troubles[cellKey("option", field)]?.message,
    make: (
      name: string,
      from: { options?: number[]; proposals?: string[]; notes?: string } = {},
    ): Promise<Made | null> =>
      does(
        () =>
          take(
            client.POST("/api/projects/{project}/options", { params: { path }, body: { name, notes: "", ...from } }),
          ),
        { name },
      ),
    describe: (id: number, cells: { name?: string; notes?: string }) =>
      does(
        () =>
          take(
            client.PATCH("/api/projects/{project}/options/{id}", {
              params: { path: { project, id } },
              body: { seen: seen(id), ...cells },
            }),
          ),
        cells,
        (field) => (field === "name" || field === "notes" ? now(id)?.[field] : undefined),
      ),
    remove: (id: number) =>
      does(async () => {
        const query = { seen: seen(id) };
        await take(client.DELETE("/api/projects/{project}/options/{id}", { params: { path: { project, id }, query } }));
        return true;
      }),
    dropChange: (id: number, number: number) =>
      does(() =>
        take(
          client.POST("/api/projects/{project}/options/{id}/changes/{number}/drop", {
            params: { path: { project, id, number } },
            body: { seen: seen(id) },
          }),
        ),
      ),
    rebase: (id: number, keep: number[]) =>
      does(() =>
        take(
          client.POST("/api/projects/{project}/options/{id}/rebase", {
            params: { path: { project, id } },
            body: { seen: seen(id), keep },
          }),
        ),
      ),
    adopt: async (id: number, reason: string) => {
      const done = await does(
        (revision) =>
          take(
            client.POST("/api/projects/{project}/options/{id}/adopt", {
              params: { path: { project, id } },
              body: { revision, seen: seen(id), reason },
            }),
          ),
        { reason },
      );
      if (done) refresh(queries, project);
      return done;
    },
    ask: (text: string) =>
      does(
        async () => {
          await take(client.PUT("/api/projects/{project}/options/ask", { params: { path }, body: { text } }));
          return true;
        },
        { ask: text },
      ),
    remark: (option: number | null, text: string, chosen: boolean) =>
      does(
        async () => {
          const body = { option, text, chosen };
          await take(client.POST("/api/projects/{project}/options/remarks", { params: { path }, body }));
          return true;
        },
        { text },
      ),
  };
}

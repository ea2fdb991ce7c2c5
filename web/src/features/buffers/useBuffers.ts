import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { keys, usePlace } from "../../shared";
import { refresh, useWrites } from "../../shared/book";
import { cellKey } from "../../shared/sheet";

export type Buffers = Schemas["BuffersOut"];
export type Fever = NonNullable<Buffers["fever"]>;
export type Point = Fever["trail"][number];

/** The buffers of the page, approving the promise, and choosing how buffers are sized and judged. */
export function useBuffers() {
  const { project, page } = usePlace();
  const queries = useQueryClient();
  const path = { project, page: page.code };
  const key = keys.page(project, page.code).buffers;
  const read = () => take(client.GET("/api/projects/{project}/pages/{page}/buffers", { params: { path } }));
  const buffers = useQuery({ queryKey: key, queryFn: read });
  const again = async () => queries.setQueryData(key, await read());
  const after = async () => {
    await again();
    refresh(queries, project, ({ part }) => part === "buffers");
  };
  const writes = useWrites({ project, part: `buffers.${page.code}`, read: again, after });
  return {
    buffers,
    refused: writes.refused,
    why: (field: string) => writes.troubles[cellKey("buffers", field)]?.message,
    approve: () =>
      writes.write((revision) => {
        const ask = { params: { path }, body: { revision } };
        return take(client.POST("/api/projects/{project}/pages/{page}/buffers/promise", ask));
      }),
    untie: (giver: string, taker: string, resource: string) =>
      writes.write((revision) => {
        const ask = { params: { path }, body: { revision, giver, taker, resource } };
        return take(client.POST("/api/projects/{project}/pages/{page}/buffers/untie", ask));
      }),
    choose: (field: string, text: string) =>
      writes.write(
        (revision) => {
          const ask = { params: { path }, body: { revision, [field]: text } };
          return take(client.PUT("/api/projects/{project}/pages/{page}/buffers", ask));
        },
        [{ row: "buffers", field, text }],
      ),
  };
}

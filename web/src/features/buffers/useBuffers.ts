import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { usePlace } from "../../shared";
import { refresh, useWrites } from "../../shared/book";
import { cellKey } from "../../shared/sheet";

export type Buffers = Schemas["BuffersOut"];
export type Fever = NonNullable<Buffers["fever"]>;
export type Point = Fever["trail"][number];

/** The buffers of the page, approving the promise, and choosing how buffers are sized and judged. */
export function useBuffers() {
  const { project, page, frame } = usePlace();
  const queries = useQueryClient();
  const path = { project, page: page.code };
  const key = [project, page.code, "buffers"];
  const read = () => take(client.GET("/api/projects/{project}/pages/{page}/buffers", { params: { path } }));
  const buffers = useQuery({ queryKey: key, queryFn: read });
  const writes = useWrites({
    project,
    part: `buffers.${page.code}`,
    read: async () => queries.setQueryData(key, await read()),
  });
  const revision = () => Math.max(queries.getQueryData<Buffers>(key)?.revision ?? 0, frame.revision);
  const done = async () => {
    queries.setQueryData(key, await read());
    refresh(queries, project, (k) => k[2] === "buffers");
    return true;
  };
  return {
    buffers,
    refused: writes.refused,
    why: (field: string) => writes.troubles[cellKey("buffers", field)]?.message,
    approve: () =>
      writes.write(async () => {
        const body = { revision: revision() };
        await take(client.POST("/api/projects/{project}/pages/{page}/buffers/promise", { params: { path }, body }));
        return done();
      }),
    choose: (field: string, text: string) =>
      writes.write(async () => {
        const body = { revision: revision(), [field]: text };
        await take(client.PUT("/api/projects/{project}/pages/{page}/buffers", { params: { path }, body }));
        return done();
      }, [{ row: "buffers", field, text }]),
  };
}

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { keys, usePlace } from "../../shared";
import { refresh, useWrites } from "../../shared/book";

type Form = Omit<Schemas["CorrectionForm"], "revision">;

/** The corrections that a page makes and receives, and the ways to make and delete one. */
export function useCorrections() {
  const { project, page, frame, person } = usePlace();
  const queries = useQueryClient();
  const key = keys.page(project, page.code).corrections;
  const of = (code: string) => ({ params: { path: { project, page: code } } });
  const read = () => take(client.GET("/api/projects/{project}/pages/{page}/posting/corrections", of(page.code)));
  const list = useQuery({ queryKey: key, queryFn: read });
  const writes = useWrites({
    project,
    part: `corrections.${page.code}`,
    read: async () => queries.setQueryData(key, await read()),
  });
  const wet = frame.pages.find((p) => p.state === "wet")?.code ?? "";
  const done = (answer: Schemas["CorrectionEffect"]) => {
    refresh(queries, project);
    return answer;
  };
  return {
    list,
    wet,
    /** Whether an entry of this page can be corrected: it is dry, and there is an open one to do it on. */
    may: page.state === "dry" && wet !== "" && person.role !== "reader",
    mayDelete: page.state === "wet" && person.role !== "reader",
    troubles: writes.troubles,
    refused: writes.refused,
    drop: writes.drop,
    make: (form: Form) =>
      writes.write(
        async (revision) =>
          done(
            await take(
              client.POST("/api/projects/{project}/pages/{page}/posting/corrections", {
                ...of(wet),
                body: { revision, ...form },
              }),
            ),
          ),
        Object.entries(form).map(([field, text]) => ({ row: "correction", field, text: text ?? "" })),
      ),
    remove: (id: string) =>
      void writes.write(async (revision) =>
        done(
          await take(
            client.PATCH("/api/projects/{project}/pages/{page}/posting/corrections", {
              ...of(wet),
              body: { revision, remove: id },
            }),
          ),
        ),
      ),
  };
}

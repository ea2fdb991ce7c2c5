import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, type Schemas, sendFile, take } from "../../api";
import { keys, usePlace } from "../../shared";
import { useWrites } from "../../shared/book";
import { settle } from "./usePosting";

export type Asking = Schemas["AskingOut"];
export type Answer = Schemas["TrayAnswer"];
/** Cells of answers that are taken otherwise than they were given, by the answer. */
export type Changed = Record<number, Record<string, string>>;

const EVERY = 20_000;

/** Who was asked on the page and who answered, and what can be done with it. */
export function useAsking(weeks: number) {
  const { project, page, setEffect } = usePlace();
  const queries = useQueryClient();
  const path = { project, page: page.code };
  const key = keys.page(project, page.code).asking(weeks);
  const read = () =>
    take(
      client.GET("/api/projects/{project}/pages/{page}/asking", { params: { path, query: weeks ? { weeks } : {} } }),
    );
  // Answers come in without anybody writing to the project.
  const asking = useQuery({ queryKey: key, queryFn: read, refetchOnMount: "always", refetchInterval: EVERY });
  const writes = useWrites({
    project,
    part: `asking.${page.code}`,
    read: async () => queries.setQueryData(key, await read()),
  });
  const show = (next: Asking) => {
    queries.setQueryData(key, next);
    return next;
  };
  const [told, tell] = useState<string[]>([]);
  const ask = async (body: Schemas["PeopleAskForm"]) =>
    show(await take(client.POST("/api/projects/{project}/pages/{page}/asking", { params: { path }, body })));
  const remind = (requests: number[]) =>
    writes.write(async () =>
      show(
        await take(
          client.POST("/api/projects/{project}/pages/{page}/asking/remind", { params: { path }, body: { requests } }),
        ),
      ),
    );
  const decide = (what: { take?: number[]; leave?: number[] }, changed: Changed = {}) =>
    writes.write(async (revision) => {
      // What a press before this one has decided waits no more.
      const waits = new Set(queries.getQueryData<Asking>(key)?.tray.map((x) => x.id));
      const still = (ids: number[] = []) => ids.filter((id) => waits.has(id));
      const done = await take(
        client.PATCH("/api/projects/{project}/pages/{page}/asking/answers", {
          params: { path },
          body: { revision, take: still(what.take), leave: still(what.leave), changed },
        }),
      );
      show(done.asking);
      settle(queries, project, page.code, done.effect, ["posting", "balance", "asking"]);
      setEffect(done.effect);
      return done;
    });
  const again = () => queries.invalidateQueries({ queryKey: key });
  const bring = async (file: File) => {
    try {
      const got = await sendFile<Schemas["ReadOut"]>(
        `projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/asking/sheet`,
        file,
        {},
      );
      tell([got.name, ...(got.refused ?? []).map((r) => `${r.row}, ${r.code}: ${r.why}`)]);
      again();
      return got;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      tell([error.message]);
      return null;
    }
  };
  const inbox = () =>
    writes.write(async () => {
      const got = await take(client.POST("/api/projects/{project}/pages/{page}/asking/inbox", { params: { path } }));
      tell(got.lines);
      again();
      return got;
    });
  return { asking, told, tell, ask, remind, decide, bring, inbox, refused: writes.refused, troubles: writes.troubles };
}

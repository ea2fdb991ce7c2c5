import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { keys, usePlace } from "../../shared";
import { useWrites } from "../../shared/book";
import { words } from "../../shared/words/feeds";
import { settle } from "./usePosting";

export type Waiting = Schemas["WaitingOut"];
type Tray = Schemas["TrayOut"];
type Right = Omit<Schemas["PatchedRightForm"], "rows">;

/** The feeds of the project, the tray of the one that is chosen, and what can be done with them. */
export function useFeeds(chosen: string) {
  const { project, page, setEffect } = usePlace();
  const queries = useQueryClient();
  const of = { params: { path: { project } } };
  const key = keys.project(project).feeds;
  const list = useQuery({ queryKey: key, queryFn: () => take(client.GET("/api/projects/{project}/feeds", of)) });
  const feed = list.data?.feeds.find((f) => String(f.id) === chosen) ?? list.data?.feeds[0];
  const id = feed?.id ?? 0;
  const trayKey = keys.page(project, page.code).tray(id);
  const path = { project, feed: id };
  const read = () => take(client.GET("/api/projects/{project}/feeds/{feed}", { params: { path } }));
  const tray = useQuery({ queryKey: trayKey, queryFn: read, enabled: id > 0 });
  const [told, tell] = useState("");
  const writes = useWrites({
    project,
    part: `feeds.${id}`,
    read: async () => queries.setQueryData(trayKey, await read()),
  });
  /** A tray that an answer brought is newer than one that is still being read. */
  const showTray = async (next: Tray) => {
    await queries.cancelQueries({ queryKey: trayKey });
    queries.setQueryData(trayKey, next);
  };
  const showList = (next: Schemas["FeedsOut"]) => queries.setQueryData(key, next);
  const fetch = (content: string | null) =>
    writes.write(async () => {
      tell(words.feeds.fetching);
      try {
        const got = await take(
          client.POST("/api/projects/{project}/feeds/{feed}/fetch", { params: { path }, body: { content } }),
        );
        await showTray(got.tray);
        tell(words.feeds.fetched(got.rows, got.seen));
        queries.invalidateQueries({ queryKey: key });
        return got;
      } catch (error) {
        tell("");
        throw error;
      }
    });
  const right = (rows: string[], what: Right, cell?: { row: string; field: string; text: string }) =>
    void writes.write(
      async () => {
        const next = await take(
          client.PATCH("/api/projects/{project}/feeds/{feed}/rows", { params: { path }, body: { rows, ...what } }),
        );
        await showTray(next);
        return next;
      },
      cell ? [cell] : [],
    );
  const post = () =>
    writes.write(async (revision) => {
      const done = await take(
        client.POST("/api/projects/{project}/pages/{page}/feeds/{feed}/post", {
          params: { path: { ...path, page: page.code } },
          body: { revision },
        }),
      );
      await showTray(done.tray);
      tell(words.feeds.posted(done.posted));
      settle(queries, project, page.code, done.effect, ["posting", "balance", "tray"]);
      setEffect(done.effect);
      queries.invalidateQueries({ queryKey: key });
      return done;
    });
  const set = (given: Schemas["FeedForm"], fresh: boolean) =>
    writes.write(async () => {
      const next = await take(
        fresh
          ? client.POST("/api/projects/{project}/feeds", { ...of, body: given })
          : client.PATCH("/api/projects/{project}/feeds/{feed}", { params: { path }, body: given }),
      );
      showList(next);
      queries.invalidateQueries({ queryKey: trayKey });
      return next;
    });
  const remove = () =>
    void writes.write(async () => {
      const next = await take(client.DELETE("/api/projects/{project}/feeds/{feed}", { params: { path } }));
      showList(next);
      return next;
    });
  return { list, feed, tray, told, fetch, right, post, set, remove, ...writes };
}

import { useQueryClient } from "@tanstack/react-query";
import { client, take } from "../../api";
import { Entry, keys, usePlace } from "../../shared";
import { refresh, useWrites } from "../../shared/book";
import { words } from "../../shared/words/posting";

/** The note of the page: what is worth knowing of the whole period. */
export function PageNote({ note }: { note: string }) {
  const { project, page, mayPost } = usePlace();
  const queries = useQueryClient();
  const key = keys.page(project, page.code).posting;
  const writes = useWrites({
    project,
    part: `note.${page.code}`,
    read: () => queries.refetchQueries({ queryKey: key }),
  });
  const write = async (text: string) => {
    const done = await writes.write((revision) => {
      const params = { path: { project, page: page.code } };
      return take(
        client.PATCH("/api/projects/{project}/pages/{page}/note", { params, body: { revision, note: text } }),
      );
    });
    if (done) refresh(queries, project);
  };
  return (
    <div style={{ padding: "0 14px 8px" }}>
      <Entry
        label={words.posting.pageNote}
        value={note}
        write={write}
        long
        disabled={!mayPost}
        trouble={writes.refused ?? undefined}
      />
    </div>
  );
}

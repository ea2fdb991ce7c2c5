import { useQueryClient } from "@tanstack/react-query";
import { client, Problem, take } from "../api";
import { keys, tellDone, tellError, usePlace, useUndoKeys } from "../shared";
import { refresh, useWrites } from "../shared/book";

/** Undo and redo in rooms that have no way of their own; what was taken back is said, and so is that nothing can be. */
export function useUndoes() {
  const { project, person } = usePlace();
  const queries = useQueryClient();
  const frame = keys.frame(project);
  const read = () => queries.refetchQueries({ queryKey: frame });
  const writes = useWrites({ project, part: "undo", read });
  const step = (way: "undo" | "redo") => async () => {
    if (person.role === "reader") return;
    const send = (revision: number) =>
      take(client.POST(`/api/projects/{project}/${way}`, { params: { path: { project } }, body: { revision } }));
    try {
      const done = await writes.inTurn(() => writes.send((revision) => send(revision)));
      void tellDone(done.label);
      refresh(queries, project);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      void tellError(error.message);
    }
  };
  useUndoKeys({ undo: step("undo"), redo: step("redo") });
}

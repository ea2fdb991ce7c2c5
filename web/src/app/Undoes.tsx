import { Toast, Toaster } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { client, Problem, take } from "../api";
import { keys, tellError, toasts, usePlace, useUndoKeys, words } from "../shared";
import { refresh, useWrites } from "../shared/book";

/** Undo and redo in rooms that have no way of their own; what was taken back is said, and so is that nothing can be. */
export function Undoes() {
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
      toasts.create({ title: done.label });
      refresh(queries, project);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      tellError(error.message);
    }
  };
  useUndoKeys({ undo: step("undo"), redo: step("redo") });
  return (
    <Toaster toaster={toasts}>
      {({ title }) => (
        <Toast.Root
          width="360px"
          display="flex"
          gap="10px"
          p="10px 14px"
          bg="paper"
          borderWidth="1px"
          borderColor="ruleStrong"
          borderTopWidth="3px"
          borderTopColor="ink"
        >
          <Toast.Title flex="1">{title}</Toast.Title>
          <Toast.CloseTrigger aria-label={words.frame.shut} position="static">
            ×
          </Toast.CloseTrigger>
        </Toast.Root>
      )}
    </Toaster>
  );
}

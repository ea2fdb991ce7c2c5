import { createToaster, Toast, Toaster } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { client, Problem, type Schemas, take } from "../api";
import { usePlace, useUndoKeys, words } from "../shared";
import { refresh, useWrites } from "../shared/book";

const toaster = createToaster({
  placement: "bottom-end",
  offsets: { left: "16px", right: "16px", top: "16px", bottom: "52px" },
});

/** Undo and redo in rooms that have no way of their own; what was taken back is said, and so is that nothing can be. */
export function Undoes() {
  const { project, person } = usePlace();
  const queries = useQueryClient();
  const frame = ["frame", project];
  const read = () => queries.refetchQueries({ queryKey: frame });
  const writes = useWrites({ project, part: "undo", read });
  const revision = () => queries.getQueryData<Schemas["FrameOut"]>(frame)?.revision ?? 0;
  const step = (way: "undo" | "redo") => async () => {
    if (person.role === "reader") return;
    const ask = () => ({ params: { path: { project } }, body: { revision: revision() } });
    const send = () =>
      way === "undo"
        ? client.POST("/api/projects/{project}/undo", ask())
        : client.POST("/api/projects/{project}/redo", ask());
    try {
      const done = await writes.inTurn(() => writes.send(() => take(send())));
      toaster.create({ title: done.label });
      refresh(queries, project);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toaster.create({ title: error.message, type: "error" });
    }
  };
  useUndoKeys({ undo: step("undo"), redo: step("redo") });
  return (
    <Toaster toaster={toaster}>
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

import { Dialog, Portal } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { usePlace, words } from "../../shared";
import { Button } from "../../shared/ui";

interface Props {
  toGo: number;
  close: () => Promise<{ page: string }>;
  shut: () => void;
}

/** Whether the page is to be closed, with what that means. */
export function CloseDialog({ toGo, close, shut }: Props) {
  const { project, page } = usePlace();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [wrong, setWrong] = useState("");
  const seal = async () => {
    try {
      const next = await close();
      queries.removeQueries({ queryKey: [project] });
      await queries.invalidateQueries({ queryKey: ["frame", project] });
      navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(next.page)}/posting`);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <Dialog.Root open onOpenChange={(e) => !e.open && shut()} role="alertdialog">
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content maxW="440px">
            <Dialog.Header>
              <Dialog.Title>{words.posting.closeTitle(page.number)}</Dialog.Title>
            </Dialog.Header>
            <Dialog.Body>
              {toGo > 0 && <p>{words.posting.closeOpen(toGo)}</p>}
              <p>{words.posting.closeSure}</p>
              {wrong && (
                <p className="field-wrong" role="alert">
                  {wrong}
                </p>
              )}
            </Dialog.Body>
            <Dialog.Footer>
              <Dialog.CloseTrigger asChild position="static">
                <Button>{words.posting.keep}</Button>
              </Dialog.CloseTrigger>
              <Button look="seal" onClick={seal}>
                {words.posting.close}
              </Button>
            </Dialog.Footer>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}

import { Dialog, Portal } from "@chakra-ui/react";
import { useState } from "react";
import { useShortcut, words } from "../shared";
import { Button } from "../shared/ui";

/** `?` lists the keys. */
export function KeysHelp() {
  const [open, setOpen] = useState(false);
  useShortcut("?", () => setOpen(true));
  return (
    <Dialog.Root open={open} onOpenChange={(e) => setOpen(e.open)}>
      <Dialog.Trigger asChild>
        <Button look="quiet" title={words.frame.keys} aria-label={words.frame.keys}>
          ?
        </Button>
      </Dialog.Trigger>
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="sheet" color="ink" borderRadius="2px" maxW="440px">
            <Dialog.Header>
              <Dialog.Title fontFamily="heading">{words.frame.keys}</Dialog.Title>
            </Dialog.Header>
            <Dialog.Body pb="20px">
              {words.frame.keyList.map(([key, what]) => (
                <div key={key} className="pair dotted">
                  <b>{key}</b>
                  <span>{what}</span>
                </div>
              ))}
              <Dialog.CloseTrigger asChild position="static">
                <Button style={{ marginTop: 14 }}>{words.frame.shut}</Button>
              </Dialog.CloseTrigger>
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}

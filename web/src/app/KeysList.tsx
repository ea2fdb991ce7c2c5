import { Dialog, Portal } from "@chakra-ui/react";
import { Button, Pair } from "../shared/ui";
import { words } from "../shared/words/keys";

/** The keys, each with what it does. */
export function KeysList({ shut }: { shut: () => void }) {
  return (
    <Dialog.Root open onOpenChange={(e) => !e.open && shut()}>
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content>
            <Dialog.Header>
              <Dialog.Title>{words.frame.keys}</Dialog.Title>
            </Dialog.Header>
            <Dialog.Body>
              {words.keyList.map(([key, what]) => (
                <Pair key={key} dotted>
                  <b>{key}</b>
                  <span>{what}</span>
                </Pair>
              ))}
              <Dialog.CloseTrigger asChild position="static">
                <Button mt="14px">{words.frame.shut}</Button>
              </Dialog.CloseTrigger>
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}

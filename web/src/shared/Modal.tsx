import { Dialog, Portal } from "@chakra-ui/react";
import type { ReactNode, RefObject } from "react";
import { Guard } from "./Guard";
import { Button } from "./ui";
import { words } from "./words";

interface Props {
  title: string;
  /** What it does, beside the way out. */
  does?: ReactNode;
  /** What the way out says; absent: close. */
  out?: string;
  shut: () => void;
  /** It asks whether one is sure. */
  asks?: boolean;
  width?: string;
  /** What the keyboard is on to begin with. */
  first?: RefObject<HTMLElement | null>;
  children: ReactNode;
}

/** A dialog over the room. Escape, its button and a press beside it shut it. */
export const Modal = ({ title, does, out = words.frame.shut, shut, asks, width, first, children }: Props) => (
  <Dialog.Root
    open
    role={asks ? "alertdialog" : "dialog"}
    initialFocusEl={first && (() => first.current)}
    onOpenChange={(e) => !e.open && shut()}
  >
    <Portal>
      <Dialog.Backdrop />
      <Dialog.Positioner>
        <Dialog.Content maxW={width}>
          <Dialog.Header>
            <Dialog.Title>{title}</Dialog.Title>
          </Dialog.Header>
          <Dialog.Body overflow="auto">
            <Guard>{children}</Guard>
          </Dialog.Body>
          <Dialog.Footer>
            <Dialog.CloseTrigger asChild position="static">
              <Button>{out}</Button>
            </Dialog.CloseTrigger>
            {does}
          </Dialog.Footer>
        </Dialog.Content>
      </Dialog.Positioner>
    </Portal>
  </Dialog.Root>
);

import { Dialog, Portal, VisuallyHidden } from "@chakra-ui/react";
import type { ReactNode, RefObject } from "react";
import { Guard } from "./Guard";
import { Button } from "./ui";
import { words } from "./words";

export interface DialogueProps {
  title: string;
  /** What it shows says itself what it is: the title is for the ear alone. */
  untitled?: boolean;
  /** What it does, beside the way out. */
  does?: ReactNode;
  /** What the way out says; absent: close. */
  out?: string;
  /** Leaves it; absent: it can't be left. */
  shut?: () => void;
  /** It asks whether one is sure. */
  asks?: boolean;
  width?: string;
  /** As tall as the window, its way out beside the title. */
  tall?: boolean;
  /** What the keyboard is on to begin with. */
  first?: RefObject<HTMLElement | null>;
  children: ReactNode;
}

/** A dialog over the room. Escape, its button and a press beside it shut it. */
export function Dialogue({
  title,
  untitled,
  does,
  out = words.frame.shut,
  shut,
  asks,
  width,
  tall,
  first,
  children,
}: DialogueProps) {
  const way = shut && (
    <Dialog.CloseTrigger asChild position="static">
      <Button>{out}</Button>
    </Dialog.CloseTrigger>
  );
  const name = <Dialog.Title flex="1">{title}</Dialog.Title>;
  return (
    <Dialog.Root
      open
      role={asks ? "alertdialog" : "dialog"}
      initialFocusEl={first && (() => first.current)}
      closeOnEscape={shut !== undefined}
      closeOnInteractOutside={shut !== undefined}
      onOpenChange={(e) => !e.open && shut?.()}
    >
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content maxW={width} borderWidth={untitled ? "0" : undefined} {...(tall && TALL)}>
            {untitled ? (
              <VisuallyHidden>{name}</VisuallyHidden>
            ) : (
              <Dialog.Header display="flex" alignItems="center" gap="10">
                {name}
                {tall && way}
              </Dialog.Header>
            )}
            <Dialog.Body overflow={tall ? "hidden" : "auto"} {...(tall && BODY)} p={untitled ? "0" : undefined}>
              <Guard>{children}</Guard>
            </Dialog.Body>
            {!tall && (way || does) && (
              <Dialog.Footer>
                {/* What is filled in is done next; what is asked is left first. */}
                {asks && way}
                {does}
                {!asks && way}
              </Dialog.Footer>
            )}
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}

const TALL = { height: "calc(100vh - 128px)", display: "flex", flexDirection: "column" } as const;
const BODY = { display: "flex", flex: 1, minH: 0, gap: "24" } as const;

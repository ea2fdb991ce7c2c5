import { Popover, Portal } from "@chakra-ui/react";
import type { ComponentProps, ReactNode } from "react";
import { Button } from "./ui";

interface Props extends Pick<ComponentProps<typeof Popover.Content>, "width" | "maxH"> {
  /** What the button says. */
  word: ReactNode;
  /** What it is called. */
  name: string;
  placement?: "bottom-start" | "bottom-end" | "top-start";
  opens?: () => void;
  children: ReactNode;
}

/** A part that a button opens over the sheet; it is drawn only while it is open. */
export const Popup = ({ word, name, placement = "bottom-start", opens, children, ...size }: Props) => (
  <Popover.Root lazyMount unmountOnExit positioning={{ placement }} onOpenChange={(e) => e.open && opens?.()}>
    <Popover.Trigger asChild>
      <Button>{word}</Button>
    </Popover.Trigger>
    <Portal>
      <Popover.Positioner>
        <Popover.Content aria-label={name} {...size}>
          {children}
        </Popover.Content>
      </Popover.Positioner>
    </Portal>
  </Popover.Root>
);

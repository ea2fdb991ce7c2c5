import { Menu, Portal } from "@chakra-ui/react";
import { Button } from "./ui";

interface Props {
  label: string;
  items: { word: string; act: () => void; disabled?: boolean }[];
}

/** What can be done with something, behind one button. */
export const ActionMenu = ({ label, items }: Props) => (
  <Menu.Root positioning={{ placement: "bottom-end" }} onSelect={({ value }) => items[Number(value)]?.act()}>
    <Menu.Trigger asChild>
      <Button look="quiet" aria-label={label} minW="26px">
        ⋯
      </Button>
    </Menu.Trigger>
    <Portal>
      <Menu.Positioner>
        <Menu.Content>
          {items.map(({ word, disabled }, at) => (
            <Menu.Item key={word} value={String(at)} disabled={disabled}>
              {word}
            </Menu.Item>
          ))}
        </Menu.Content>
      </Menu.Positioner>
    </Portal>
  </Menu.Root>
);

import { createToaster, Toast, Toaster } from "@chakra-ui/react";
import { words } from "./words";

/** What is said in passing, from wherever it comes. */
export const toasts = createToaster({
  placement: "bottom-end",
  offsets: { left: "16px", right: "16px", top: "16px", bottom: "52px" },
});

/** Shows what is said in passing. */
export const Toasts = () => (
  <Toaster toaster={toasts}>
    {({ title }) => (
      <Toast.Root
        width="360px"
        display="flex"
        gap="10"
        py="10"
        px="14"
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

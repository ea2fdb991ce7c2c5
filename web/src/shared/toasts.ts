import { createToaster } from "@chakra-ui/react";

/** What is said in passing, from wherever it comes; it is shown by the frame. */
export const toasts = createToaster({
  placement: "bottom-end",
  offsets: { left: "16px", right: "16px", top: "16px", bottom: "52px" },
});

/** Says once what went wrong and belongs to no entry. */
export function tellError(message: string) {
  if (!toasts.isVisible(message)) toasts.create({ id: message, title: message, type: "error" });
}

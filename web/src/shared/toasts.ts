import { createToaster } from "@chakra-ui/react";
import { Problem } from "../api";

/** What is said in passing, from wherever it comes; it is shown by the frame. */
export const toasts = createToaster({
  placement: "bottom-end",
  offsets: { left: "16px", right: "16px", top: "16px", bottom: "52px" },
});

/** Says once what went wrong and belongs to no entry. */
export function tellError(message: string, more: { id?: string; duration?: number } = {}) {
  const { id = message } = more;
  if (!toasts.isVisible(id)) toasts.create({ ...more, id, title: message, type: "error" });
}

const AWAY = "away";
const LONG = 24 * 3_600_000;

/** What could not be read again: said in passing; that the server does not answer, until it does. */
export const tellUnread = (error: Error) =>
  error instanceof Problem && error.code === "unreachable"
    ? tellError(error.message, { id: AWAY, duration: LONG })
    : tellError(error.message);

/** The server has answered. */
export const tellAnswered = () => {
  if (toasts.isVisible(AWAY)) toasts.dismiss(AWAY);
};

import { Problem } from "../api";

/** What shows it is fetched right after the first screen. */
const told = () => import("./Toasts").then(({ toasts }) => toasts);

/** Says in passing what was done. */
export const tellDone = async (title: string) => {
  (await told()).create({ title });
};

/** Says once what went wrong and belongs to no entry. */
export async function tellError(message: string, more: { id?: string; duration?: number } = {}) {
  const toasts = await told();
  const { id = message } = more;
  if (!toasts.isVisible(id)) toasts.create({ ...more, id, title: message, type: "error" });
}

const AWAY = "away";
const LONG = 24 * 3_600_000;
let away = false;

/** What could not be read again: said in passing; that the server does not answer, until it does. */
export function tellUnread(error: Error) {
  const unreachable = error instanceof Problem && error.code === "unreachable";
  away ||= unreachable;
  return unreachable ? tellError(error.message, { id: AWAY, duration: LONG }) : tellError(error.message);
}

/** The server has answered. */
export async function tellAnswered() {
  if (!away) return;
  away = false;
  (await told()).dismiss(AWAY);
}

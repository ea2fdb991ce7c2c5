import { Outlet } from "react-router";
import { SignIn } from "../features/accounts";
import { Notice, useSession, words } from "../shared";
import { useColourMode } from "./colourMode";

/** Nobody signed out sees anything but the sign-in page. */
export function Gate() {
  const session = useSession();
  const [mode, turn] = useColourMode();
  if (session.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (session.isError) return <Notice bad>{session.error.message}</Notice>;
  if (!session.data.person) return <SignIn people={session.data.demo_people} />;
  return <Outlet context={{ mode, turn, person: session.data.person }} />;
}

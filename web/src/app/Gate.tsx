import { Dialog, Portal } from "@chakra-ui/react";
import { useEffect, useRef, useSyncExternalStore } from "react";
import { Outlet } from "react-router";
import { isExpired, onExpiry, type Schemas, settleExpired } from "../api";
import { DueScreen, SignIn, SignInForm } from "../features/accounts";
import { Bones, Notice, setFormats, useSession, words } from "../shared";
import { useColourMode } from "./colourMode";

/** Nobody signed out sees anything but the sign-in page. Where a session runs out, one signs in again over what one was doing. */
export function Gate() {
  const session = useSession();
  const [mode, turn] = useColourMode();
  const expired = useSyncExternalStore(onExpiry, isExpired);
  const last = useRef<Schemas["PersonOut"] | null>(null);
  const now = session.data?.person ?? null;
  if (now) {
    last.current = now;
    setFormats(now.formats);
  }
  const { refetch } = session;
  useEffect(() => {
    if (expired) refetch();
  }, [expired, refetch]);
  if (session.isPending) return <Bones />;
  if (!session.data) return <Notice bad>{session.error?.message}</Notice>;
  const people = session.data.demo_people;
  const person = now ?? (expired ? last.current : null);
  if (!person) return <SignIn people={people} />;
  if (person.password_due) return <DueScreen />;
  return (
    <>
      <Outlet context={{ mode, turn, person }} />
      {expired && (
        <Dialog.Root open closeOnEscape={false} closeOnInteractOutside={false}>
          <Portal>
            <Dialog.Backdrop />
            <Dialog.Positioner>
              <Dialog.Content aria-label={words.signIn.again} width="auto" p="0" border="0">
                <SignInForm
                  people={people}
                  note={words.signIn.expired(person.full_name)}
                  then={(next) => settleExpired(next.username === person.username)}
                />
              </Dialog.Content>
            </Dialog.Positioner>
          </Portal>
        </Dialog.Root>
      )}
    </>
  );
}

import { lazy, Suspense, useEffect, useRef, useSyncExternalStore } from "react";
import { Outlet, useLocation } from "react-router";
import { isExpired, onExpiry, type Schemas, settleExpired } from "../api";
import { SignIn, SignInForm } from "../features/accounts";
import { Bones, Modal, Notice, setFormats, useSession, words } from "../shared";
import { useColourMode } from "./colourMode";

const DueScreen = lazy(() => import("../features/accounts/DueScreen").then((m) => ({ default: m.DueScreen })));

/** Nobody signed out sees anything but the sign-in page. Where a session runs out, one signs in again over what one was doing. */
export function Gate() {
  const session = useSession();
  const [mode, switchMode] = useColourMode();
  const expired = useSyncExternalStore(onExpiry, isExpired);
  const last = useRef<Schemas["PersonOut"] | null>(null);
  const now = session.data?.person ?? null;
  if (now) {
    last.current = now;
    setFormats(now.formats);
  }
  const { pathname, search } = useLocation();
  useEffect(() => {
    document.documentElement.dataset.place = pathname + search; // the place that is drawn, once it is
  }, [pathname, search]);
  const { refetch } = session;
  useEffect(() => {
    if (expired) refetch();
  }, [expired, refetch]);
  if (session.isPending) return <Bones />;
  if (!session.data) return <Notice bad>{session.error?.message}</Notice>;
  const people = session.data.demo_people;
  const person = now ?? (expired ? last.current : null);
  if (!person) return <SignIn people={people} />;
  if (person.password_due)
    return (
      <Suspense fallback={<Bones />}>
        <DueScreen />
      </Suspense>
    );
  return (
    <>
      <Outlet context={{ mode, switchMode, person }} />
      {expired && (
        <Modal title={words.signIn.again} untitled width="380px">
          <SignInForm
            people={people}
            note={words.signIn.expired(person.full_name)}
            then={(next) => settleExpired(next.username === person.username)}
          />
        </Modal>
      )}
    </>
  );
}

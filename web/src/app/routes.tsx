import { type ComponentType, lazy, type ReactNode, Suspense } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { Bones, Guard } from "../shared";
import { Gate } from "./Gate";
import { ROOMS } from "./rooms";
import { Shell } from "./Shell";

const fetched = (load: () => Promise<{ Component: ComponentType }>) =>
  lazy(() => load().then(({ Component }) => ({ default: Component })));

const SCREENS = ROOMS.flatMap((room) =>
  Object.entries(room.screens).map(([below, load]) => ({
    path: [room.path, below].filter(Boolean).join("/"),
    Screen: fetched(load),
  })),
);
const Desk = fetched(() => import("../features/desk").then((m) => ({ Component: m.DeskScreen })));
const People = fetched(() => import("../features/people").then((m) => ({ Component: m.PeopleScreen })));
const Own = fetched(() => import("../features/accounts/OwnScreen").then((m) => ({ Component: m.OwnScreen })));
const MyWork = fetched(() => import("../features/asking/MyWorkScreen").then((m) => ({ Component: m.MyWorkScreen })));
const OUTSIDE = [
  { path: "/my-work", Screen: MyWork },
  { path: "/", Screen: Desk },
  { path: "/people", Screen: People },
  { path: "/account", Screen: Own },
];

/** A room of its own: fetched when gone to, and where it can't be drawn the others go on. */
function Room({ children }: { children: ReactNode }) {
  return (
    <Guard of={useLocation().pathname}>
      <Suspense fallback={<Bones />}>{children}</Suspense>
    </Guard>
  );
}

const routeOf = ({ path, Screen }: { path: string; Screen: ComponentType }) => (
  <Route
    key={path}
    path={path}
    element={
      <Room key={path}>
        <Screen />
      </Room>
    }
  />
);

/** Where everything lies. */
export const Places = () => (
  <Routes>
    <Route element={<Gate />}>
      {OUTSIDE.map(routeOf)}
      <Route path="/:project/:page" element={<Shell />}>
        {SCREENS.map(routeOf)}
        <Route path="*" element={<Navigate to="posting" replace />} />
        <Route index element={<Navigate to="posting" replace />} />
      </Route>
      <Route path="*" element={<Navigate to="/" replace />} />
    </Route>
  </Routes>
);

import { createBrowserRouter, Navigate } from "react-router";
import { Gate } from "./Gate";
import { RoomFault } from "./RoomFault";
import { ROOMS } from "./rooms";
import { Shell } from "./Shell";

const screens = ROOMS.flatMap((room) =>
  Object.entries(room.screens).map(([below, lazy]) => ({
    path: [room.path, below].filter(Boolean).join("/"),
    lazy,
    ErrorBoundary: RoomFault,
  })),
);

export const router = createBrowserRouter([
  {
    element: <Gate />,
    ErrorBoundary: RoomFault,
    HydrateFallback: () => null,
    children: [
      { path: "/", lazy: () => import("../features/desk").then((m) => ({ Component: m.DeskScreen })) },
      {
        path: "/:project/:page",
        element: <Shell />,
        children: [
          ...screens,
          { path: "*", element: <Navigate to="posting" replace /> },
          { index: true, element: <Navigate to="posting" replace /> },
        ],
      },
      { path: "*", element: <Navigate to="/" replace /> },
    ],
  },
]);

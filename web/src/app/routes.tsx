import { createBrowserRouter, Navigate } from "react-router";
import { DeskScreen, PlanScreen } from "../features/plan";
import { PostingScreen } from "../features/posting";
import { ReportScreen } from "../features/report";
import { TimelineScreen } from "../features/schedule";
import { ValueScreen } from "../features/value";
import { Gate } from "./Gate";
import { Shell } from "./Shell";

export const router = createBrowserRouter([
  {
    element: <Gate />,
    HydrateFallback: () => null,
    children: [
      { path: "/", element: <DeskScreen /> },
      {
        path: "/:project/:page",
        element: <Shell />,
        children: [
          { path: "plan", element: <PlanScreen /> },
          { path: "posting", element: <PostingScreen /> },
          { path: "value", element: <ValueScreen /> },
          { path: "timeline", element: <TimelineScreen /> },
          { path: "report", element: <ReportScreen /> },
          { path: "*", element: <Navigate to="posting" replace /> },
          { index: true, element: <Navigate to="posting" replace /> },
        ],
      },
      { path: "*", element: <Navigate to="/" replace /> },
    ],
  },
]);

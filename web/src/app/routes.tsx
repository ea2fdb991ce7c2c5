import { createBrowserRouter, Navigate } from "react-router";
import { BaselinesScreen } from "../features/baseline";
import { BudgetScreen } from "../features/budget";
import { ExchangeScreen } from "../features/exchange";
import { CalendarsScreen, DeskScreen, PlanScreen, ProjectScreen, ResourcesScreen } from "../features/plan";
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
          { path: "plan/resources", element: <ResourcesScreen /> },
          { path: "plan/calendars", element: <CalendarsScreen /> },
          { path: "plan/project", element: <ProjectScreen /> },
          { path: "budget", element: <BudgetScreen /> },
          { path: "baselines", element: <BaselinesScreen /> },
          { path: "exchange", element: <ExchangeScreen /> },
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

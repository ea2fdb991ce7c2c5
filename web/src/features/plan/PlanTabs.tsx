import { memo } from "react";
import { NavLink, useParams } from "react-router";
import { Parts } from "../../shared/ui";
import { words } from "../../shared/words/plan";

const TABS = [
  ["plan", words.plan.tabs.sheet],
  ["plan/resources", words.plan.tabs.resources],
  ["plan/calendars", words.plan.tabs.calendars],
  ["plan/project", words.plan.tabs.project],
] as const;

/** The parts of the plan room. */
export const PlanTabs = memo(function PlanTabs() {
  const { project = "", page = "" } = useParams();
  const at = `/${encodeURIComponent(project)}/${encodeURIComponent(page)}/`;
  return (
    <Parts as="nav" aria-label={words.plan.tabs.label}>
      {TABS.map(([to, word]) => (
        <NavLink key={to} to={`${at}${to}`} end>
          {word}
        </NavLink>
      ))}
    </Parts>
  );
});

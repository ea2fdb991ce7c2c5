import { memo } from "react";
import { PartLinks } from "../../shared/ui";
import { words } from "../../shared/words/plan";

const PARTS = [
  ["plan", words.plan.tabs.sheet],
  ["plan/resources", words.plan.tabs.resources],
  ["plan/calendars", words.plan.tabs.calendars],
  ["plan/project", words.plan.tabs.project],
] as const;

/** The parts of the plan room. */
export const PlanTabs = memo(function PlanTabs() {
  return <PartLinks label={words.plan.tabs.label} parts={PARTS} />;
});

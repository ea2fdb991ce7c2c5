import { Soft, Why } from "../../shared/ui";
import type { PlanHandle } from "./usePlan";

/** Under a list that is written: why the last change was refused, and what the last one did. */
export const Answered = ({ plan }: { plan: PlanHandle }) => (
  <>
    {plan.refused && <Why role="alert">{plan.refused}</Why>}
    {plan.effect && (
      <Soft as="p" role="status">
        {plan.effect.label}
      </Soft>
    )}
  </>
);

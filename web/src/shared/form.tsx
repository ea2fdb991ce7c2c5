import type { ComponentProps } from "react";
import { Problem } from "../api";
import { FormLine, Input, Select, Why } from "./ui";

/** Why what was filled in is refused, and at which entry. */
export interface Wrong {
  field?: string;
  message: string;
}

/** A refusal as a form shows it; any other error goes on. */
export function wrongOf(error: unknown): Wrong {
  if (!(error instanceof Problem)) throw error;
  return { field: error.field, message: error.message };
}

interface FieldProps extends ComponentProps<typeof Input> {
  label: string;
  /** Why what is typed here is refused. */
  why?: string;
}

/** A line of a form: what is typed, its name before it, and why it is refused under it. */
export const FormField = ({ label, why, ...input }: FieldProps) => (
  <FormLine as="label">
    <span>{label}</span>
    <span>
      <Input {...input} aria-invalid={why !== undefined || undefined} />
      {why && (
        <Why role="alert" as="span">
          {why}
        </Why>
      )}
    </span>
  </FormLine>
);

interface ChoiceProps extends ComponentProps<typeof Select> {
  label: string;
}

/** A line of a form in which one of a few is chosen. */
export const FormChoice = ({ label, children, ...select }: ChoiceProps) => (
  <FormLine as="label">
    <span>{label}</span>
    <Select {...select}>{children}</Select>
  </FormLine>
);

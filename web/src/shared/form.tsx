import { type ComponentProps, type ReactNode, useState } from "react";
import { type DefaultValues, type FieldValues, type Path, useForm as useLibraryForm } from "react-hook-form";
import { Problem } from "../api";
import { FormLine, Input, Select, Why } from "./ui";

/** Why what was filled in is refused, and at which entry. */
interface Wrong {
  field?: string;
  message: string;
}

/** A refusal as a form shows it; any other error goes on. */
export function wrongOf(error: unknown): Wrong {
  if (!(error instanceof Problem)) throw error;
  return { field: error.field, message: error.message };
}

/** Refused before it is sent: at which entry, and why. */
export class Refused extends Error {
  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message);
  }
}

/** What is filled in and then sent as a whole: a refusal stands at the entry that caused it, and what was typed stays. */
export function useForm<T extends FieldValues>(empty: DefaultValues<T>, send: (form: T) => Promise<unknown>) {
  const form = useLibraryForm<T>({ defaultValues: empty });
  const { errors } = form.formState;
  const [sent, setSent] = useState(false);
  const submit = form.handleSubmit(async (filled) => {
    setSent(false);
    try {
      await send(filled);
      form.reset(empty);
      setSent(true);
    } catch (no) {
      const { field = "", message } = no instanceof Refused ? no : wrongOf(no);
      form.setError(field in filled ? (field as Path<T>) : "root", { message });
    }
  });
  const entry = (key: Path<T>) => {
    const found = errors[key]?.message;
    return { ...form.register(key), why: typeof found === "string" ? found : undefined };
  };
  return { ...form, submit, entry, wrong: errors.root?.message, sent };
}

interface LineProps {
  label: string;
  /** Why what is said here is refused. */
  why?: string;
}

/** A line of a form: its name, what is said, and why it is refused under it. */
const Line = ({ label, why, children }: LineProps & { children: ReactNode }) => (
  <FormLine as="label">
    <span>{label}</span>
    <span>
      {children}
      {why && (
        <Why role="alert" as="span">
          {why}
        </Why>
      )}
    </span>
  </FormLine>
);

/** A line in which something is typed. */
export const FormField = ({ label, why, ...input }: ComponentProps<typeof Input> & LineProps) => (
  <Line label={label} why={why}>
    <Input {...input} aria-invalid={why !== undefined || undefined} />
  </Line>
);

/** A line in which one of a few is chosen. */
export const FormChoice = ({ label, why, ...select }: ComponentProps<typeof Select> & LineProps) => (
  <Line label={label} why={why}>
    <Select {...select} aria-invalid={why !== undefined || undefined} />
  </Line>
);

import { Dialog, Portal } from "@chakra-ui/react";
import type { ComponentProps, FormEvent, ReactNode } from "react";
import { Problem } from "../api";
import { Button, FormLine, Input, RowOf, Select, Why } from "./ui";
import { words } from "./words";

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

interface DialogProps {
  /** What opens it, and what it is called. */
  title: string;
  /** What does it. */
  go: string;
  open: boolean;
  setOpen: (open: boolean) => void;
  submit: () => void;
  /** What is refused of the whole, beside what stands at its entries. */
  wrong?: string;
  children: ReactNode;
}

/** A form that a button opens. */
export function FormDialog({ title, go, open, setOpen, submit, wrong, children }: DialogProps) {
  const send = (event: FormEvent) => {
    event.preventDefault();
    submit();
  };
  return (
    <Dialog.Root open={open} onOpenChange={(e) => setOpen(e.open)}>
      <Dialog.Trigger asChild>
        <Button look="seal">{title}</Button>
      </Dialog.Trigger>
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content maxW="520px">
            <Dialog.Header>
              <Dialog.Title fontFamily="heading">{title}</Dialog.Title>
            </Dialog.Header>
            <Dialog.Body>
              <form onSubmit={send}>
                {children}
                {wrong && (
                  <Why role="alert" as="p">
                    {wrong}
                  </Why>
                )}
                <RowOf>
                  <Button type="submit" look="seal">
                    {go}
                  </Button>
                  <Dialog.CloseTrigger asChild position="static">
                    <Button>{words.frame.shut}</Button>
                  </Dialog.CloseTrigger>
                </RowOf>
              </form>
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}

import { type FormEvent, type ReactNode, useId } from "react";
import { Modal } from "./Modal";
import { Button, Why } from "./ui";

interface Props {
  /** What opens it, and what it is called. */
  title: string;
  /** What does it. */
  go: string;
  open: boolean;
  setOpen: (open: boolean) => void;
  submit: (event: FormEvent) => void;
  /** What is refused of the whole, beside what stands at its entries. */
  wrong?: string;
  children: ReactNode;
}

/** A form that a button opens. */
export function FormDialog({ title, go, open, setOpen, submit, wrong, children }: Props) {
  const form = useId();
  const does = (
    <Button type="submit" form={form} look="seal">
      {go}
    </Button>
  );
  return (
    <>
      <Button look="seal" aria-haspopup="dialog" aria-expanded={open} onClick={() => setOpen(true)}>
        {title}
      </Button>
      {open && (
        <Modal title={title} does={does} shut={() => setOpen(false)}>
          <form id={form} onSubmit={submit}>
            {children}
            {wrong && (
              <Why role="alert" as="p">
                {wrong}
              </Why>
            )}
          </form>
        </Modal>
      )}
    </>
  );
}

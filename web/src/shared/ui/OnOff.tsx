import type { ReactNode } from "react";
import { Input } from "./controls";
import { TickBox } from "./parts";

interface Props {
  on: boolean;
  set: (on: boolean) => void;
  disabled?: boolean;
  children: ReactNode;
}

/** Something that is on or off, with its word. */
export const OnOff = ({ on, set, disabled, children }: Props) => (
  <TickBox>
    <Input look="bare" type="checkbox" checked={on} disabled={disabled} onChange={(e) => set(e.target.checked)} />
    {children}
  </TickBox>
);

import { type ReactNode, useState } from "react";
import { words as frame } from "../../shared";
import { Act, Button, Input, RoomHead, RowOf, SideBy, SideList, Soft, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import { PlanTabs } from "./PlanTabs";
import { Turns } from "./ProjectScreen";
import type { Verb } from "./row";
import type { PlanHandle } from "./usePlan";

interface Props {
  title: string;
  plan: PlanHandle;
  open: boolean;
  items: { id: string; name: string; beside: ReactNode }[];
  at: string | undefined;
  choose: (id: string) => void;
  /** What stands in the list while it is empty. */
  none?: string;
  addLabel: string;
  /** The change that makes a new one of this name; it is called "new" in it. */
  add: (name: string) => Extract<Verb, { do: "add" }>;
  /** What else the list offers below. */
  more?: ReactNode;
  children: ReactNode;
}

/** A room with a list at its side, from which one is chosen, and whatever is chosen beside it. */
export function Sided({ title, plan, open, items, at, choose, none, addLabel, add, more, children }: Props) {
  const [name, setName] = useState("");
  /** The new one that is chosen as soon as it is there: what is typed meanwhile is not for the one before it. */
  const [making, setMaking] = useState<string | null>(null);
  const waits = making !== null && !items.some((x) => x.id === making);
  const make = async () => {
    setMaking("");
    setName("");
    const done = await plan.change([{ ...add(name), as: "new" }]);
    const id = done?.made?.new;
    setMaking(id ?? null);
    if (id) choose(id);
    else setName((now) => now || name);
  };
  return (
    <>
      <RoomHead>
        <h1>{title}</h1>
        <Told role="status">{plan.refused ? <Act role="alert">{plan.refused}</Act> : plan.effect?.label}</Told>
        <Space />
        {open && <Turns plan={plan} />}
      </RoomHead>
      <PlanTabs />
      <SideBy>
        <SideList>
          {items.map((x) => (
            <Button key={x.id} look="side" aria-current={x.id === at || undefined} onClick={() => choose(x.id)}>
              {x.name}
              {x.beside}
            </Button>
          ))}
          {items.length === 0 && none && <Soft as="p">{none}</Soft>}
          {open && (
            <RowOf
              as="form"
              onSubmit={(e) => {
                e.preventDefault();
                if (name.trim()) void make();
              }}
            >
              <Input
                aria-label={addLabel}
                placeholder={addLabel}
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
              <Button type="submit">{words.project.addIt}</Button>
            </RowOf>
          )}
          {open && more}
        </SideList>
        {waits ? <Soft role="status">{frame.frame.loading}</Soft> : children}
      </SideBy>
    </>
  );
}

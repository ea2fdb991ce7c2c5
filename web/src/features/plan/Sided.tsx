import { type ReactNode, useState } from "react";
import { words } from "../../shared";
import { Button, Input } from "../../shared/ui";
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
  add: (name: string) => Verb;
  children: ReactNode;
}

/** A room with a list at its side, from which one is chosen, and whatever is chosen beside it. */
export function Sided({ title, plan, open, items, at, choose, none, addLabel, add, children }: Props) {
  const [name, setName] = useState("");
  return (
    <>
      <div className="sheet-head">
        <h1>{title}</h1>
        <span className="told">
          {plan.refused ? (
            <span role="alert" className="act-text">
              {plan.refused}
            </span>
          ) : (
            plan.effect?.label
          )}
        </span>
        <span className="space" />
        {open && <Turns plan={plan} />}
      </div>
      <PlanTabs />
      <div className="side-by">
        <div className="side-list">
          {items.map((x) => (
            <Button
              key={x.id}
              look="bare"
              className={x.id === at ? "side-item active" : "side-item"}
              onClick={() => choose(x.id)}
            >
              {x.name}
              {x.beside}
            </Button>
          ))}
          {items.length === 0 && none && <p className="soft-text">{none}</p>}
          {open && (
            <form
              className="row-of"
              onSubmit={(e) => {
                e.preventDefault();
                if (!name.trim()) return;
                plan.change([{ ...add(name), as: "new" }]).then((done) => done?.made?.new && choose(done.made.new));
                setName("");
              }}
            >
              <Input
                aria-label={addLabel}
                placeholder={addLabel}
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
              <Button type="submit">{words.project.addIt}</Button>
            </form>
          )}
        </div>
        {children}
      </div>
    </>
  );
}

import { Entry, format, Pick, words } from "../../../shared";
import { Button, Input } from "../../../shared/ui";
import { Cross } from "../Cross";
import { type Part, useWrite } from "./part";

const w = words.plan.note;

/** Its direct costs, and what it costs in all. */
export function Costs(part: Part) {
  const { note, open } = part;
  const { on, remove, run, trouble } = useWrite(part);
  return (
    <>
      <h3 className="margin-head">{w.costs}</h3>
      {note.costs.map((c) => (
        <div key={c.id} className="note-cost">
          <div className="note-line">
            <Entry
              bare
              label={w.costName}
              value={c.name}
              disabled={!open}
              write={(name) => on(c.id, { name }, "name", name)}
              trouble={trouble("name", c.id)}
            />
            <Entry
              bare
              right
              label={w.amount(c.name)}
              value={c.amount}
              disabled={!open}
              write={(amount) => on(c.id, { amount }, "amount", amount)}
              trouble={trouble("amount", c.id)}
            />
            {open && <Cross label={w.dropCost(c.name)} act={() => remove(c.id)} />}
          </div>
          <div className="note-line">
            <Pick
              bare
              label={w.costKind(c.name)}
              value={c.kind}
              disabled={!open}
              options={[
                ["fixed", w.fixed],
                ["per_day", w.perDay],
              ]}
              write={(kind) => on(c.id, { kind }, "kind", kind)}
            />
            <Pick
              bare
              label={w.accrual(c.name)}
              value={c.accrual}
              disabled={!open}
              options={[
                ["uniform", w.spread],
                ["start", w.atStart],
                ["finish", w.atFinish],
              ]}
              write={(accrual) => on(c.id, { accrual }, "accrual", accrual)}
            />
            <label className="tick-box">
              <Input
                type="checkbox"
                look="bare"
                checked={c.in_budget}
                disabled={!open}
                onChange={(e) => on(c.id, { in_budget: e.target.checked }, "in_budget")}
              />
              {w.inBudget}
            </label>
          </div>
        </div>
      ))}
      <div className="pair dotted facts">
        <span>{w.total}</span>
        <span>{format.money(note.row.cost, true)}</span>
      </div>
      {open && (
        <Button
          onClick={() =>
            run({ do: "add", list: "costs", activity: note.row.id, cells: { name: w.newCost, amount: "0" } }, "costs")
          }
        >
          {w.addCost}
        </Button>
      )}
    </>
  );
}

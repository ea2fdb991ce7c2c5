import { Box } from "@chakra-ui/react";
import { Entry, format, Pick } from "../../../shared";
import { Button, MarginHead, NoteLine, OnOff, Pair } from "../../../shared/ui";
import { words } from "../../../shared/words/plan";
import { Cross } from "../Cross";
import { type Part, useWrite } from "./part";

const w = words.plan.note;

const WIDE = { "& [data-entry]": { width: "auto" } };

/** Its direct costs, and what it costs in all. */
export function Costs(part: Part) {
  const { note, open } = part;
  const { on, remove, run, trouble } = useWrite(part);
  return (
    <>
      <MarginHead>{w.costs}</MarginHead>
      {note.costs.map((c) => (
        <Box key={c.id} css={WIDE}>
          <NoteLine>
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
              number
              label={w.amount(c.name)}
              value={c.amount}
              disabled={!open}
              write={(amount) => on(c.id, { amount }, "amount", amount)}
              trouble={trouble("amount", c.id)}
            />
            {open && <Cross label={w.dropCost(c.name)} act={() => remove(c.id)} />}
          </NoteLine>
          <NoteLine>
            <Pick
              bare
              label={w.actuals(c.name)}
              value={c.actuals}
              disabled={!open}
              options={words.plan.ofProject}
              write={(actuals) => on(c.id, { actuals }, "actuals", actuals)}
            />
          </NoteLine>
          <NoteLine>
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
            <OnOff on={c.in_budget} disabled={!open} set={(next) => on(c.id, { in_budget: next }, "in_budget")}>
              {w.inBudget}
            </OnOff>
          </NoteLine>
        </Box>
      ))}
      <Pair dotted facts>
        <span>{w.total}</span>
        <span>{format.money(note.row.cost, true)}</span>
      </Pair>
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

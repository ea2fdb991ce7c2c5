import { Popover, Portal } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { type Dispatch, memo, type SetStateAction, useState } from "react";
import { client, Problem, take } from "../../api";
import { usePlace, words } from "../../shared";
import { Button, Input, Select } from "../../shared/ui";
import type { Scale } from "../schedule";
import type { Column } from "./columns";
import { type Condition, conditionsOf, groundOf, unread } from "./conditions";
import { type Lens, PLAIN, SHOWS } from "./tree";
import { type PlanInfo, planKey } from "./usePlan";

type Chosen = { key: string; width?: number }[];

interface Props {
  info: PlanInfo;
  offered: Column[];
  chosen: Chosen;
  setChosen: Dispatch<SetStateAction<Chosen>>;
  lens: Lens;
  setLens: Dispatch<SetStateAction<Lens>>;
  /** The scale of the timeline beside the sheet; "none" without one. */
  time: string;
  setTime: (time: string) => void;
  open: boolean;
  /** Whether anything is folded. */
  folded: boolean;
  foldAll: (shut: boolean) => void;
}

interface View {
  name: string;
  columns: Chosen;
  lens: Lens;
}

const GROUPS = ["calendar", "people", "state", "method"];
const SCALES: Scale[] = ["day", "week", "month"];

/** How the sheet is looked at: find, cut, group, columns, named views, and the timeline's own settings. */
export const ViewMenu = memo(function ViewMenu(p: Props) {
  const { lens, setLens, info } = p;
  const w = words.plan.view;
  const set = (change: Partial<Lens>) => setLens((now) => ({ ...now, ...change }));
  return (
    <div className="plan-view">
      <Input
        type="search"
        aria-label={w.find}
        placeholder={w.find}
        value={lens.find}
        onChange={(e) => set({ find: e.target.value })}
      />
      <label>
        {w.show}
        <Select aria-label={w.show} value={lens.show} onChange={(e) => set({ show: e.target.value })}>
          {Object.keys(SHOWS).map((s) => (
            <option key={s} value={s}>
              {s}
            </option>
          ))}
        </Select>
      </label>
      <label>
        {w.group}
        <Select aria-label={w.group} value={lens.group} onChange={(e) => set({ group: e.target.value })}>
          <option value="">{w.tree}</option>
          {[...GROUPS, ...info.fields.map((f) => `fields.${f.code}`)].map((g) => (
            <option key={g} value={g}>
              {p.offered.find((c) => c.key === g)?.title.toLowerCase() ?? g}
            </option>
          ))}
        </Select>
      </label>
      <Conditions {...p} />
      <Columns {...p} />
      <Views {...p} />
      {JSON.stringify(lens) !== JSON.stringify(PLAIN) ? (
        <Button look="quiet" onClick={() => setLens(PLAIN)}>
          {w.clear}
        </Button>
      ) : (
        <Button look="quiet" onClick={() => p.foldAll(!p.folded)}>
          {p.folded ? w.openAll : w.foldAll}
        </Button>
      )}
      <span className="space" />
      <Select aria-label={w.timeline} value={p.time} onChange={(e) => p.setTime(e.target.value)}>
        {SCALES.map((s) => (
          <option key={s} value={s}>
            {w.by(words.timeline[s])}
          </option>
        ))}
        <option value="none">{w.noTimeline}</option>
      </Select>
    </div>
  );
});

/** Conditions on any columns, own fields among them; a row is shown where all of them hold. */
function Conditions({ lens, setLens, offered, info }: Props) {
  const w = words.plan.view;
  const { where } = lens;
  const ground = groundOf(info);
  const put = (next: Condition[]) => setLens((now) => ({ ...now, where: next }));
  const change = (i: number, part: Partial<Condition>) => put(where.map((c, j) => (j === i ? { ...c, ...part } : c)));
  const more = () =>
    put([...where, { key: offered.find((c) => c.key.startsWith("fields."))?.key ?? "people", text: "" }]);
  return (
    <Popover.Root positioning={{ placement: "bottom-start" }} onOpenChange={(e) => e.open && !where.length && more()}>
      <Popover.Trigger asChild>
        <Button>{w.where(conditionsOf(lens).length)}</Button>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content className="plan-pop" aria-label={w.where(0)}>
            {where.map((c, i) => {
              const wrong = unread(c, ground);
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: conditions have no name but their place
                <div key={i}>
                  <div className="plan-pick">
                    <Select aria-label={w.column} value={c.key} onChange={(e) => change(i, { key: e.target.value })}>
                      {offered.map((o) => (
                        <option key={o.key} value={o.key}>
                          {o.title}
                        </option>
                      ))}
                    </Select>
                    <Input
                      aria-label={w.condition}
                      aria-invalid={wrong !== null || undefined}
                      placeholder={w.conditionHint}
                      value={c.text}
                      onChange={(e) => change(i, { text: e.target.value })}
                    />
                    <Button
                      look="quiet"
                      aria-label={w.dropCondition}
                      onClick={() => put(where.filter((_, j) => j !== i))}
                    >
                      ×
                    </Button>
                  </div>
                  {wrong && (
                    <div className="act-text" role="alert">
                      {w.unread[wrong] ?? w.unread.number}
                    </div>
                  )}
                </div>
              );
            })}
            <Button look="link" onClick={more}>
              {w.addCondition}
            </Button>
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}

function Columns({ offered, chosen, setChosen }: Props) {
  const w = words.plan.view;
  const on = new Set(chosen.map((c) => c.key));
  const shift = (i: number, by: number) =>
    setChosen((now) => {
      const next = [...now];
      const [one] = next.splice(i, 1);
      if (one) next.splice(Math.max(0, i + by), 0, one);
      return next;
    });
  return (
    <Popover.Root positioning={{ placement: "bottom-start" }}>
      <Popover.Trigger asChild>
        <Button>{w.columns}</Button>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content className="plan-pop" aria-label={w.columns}>
            {chosen.map((c, i) => (
              <div key={c.key} className="plan-pick">
                <label>
                  <Input
                    type="checkbox"
                    look="bare"
                    checked
                    disabled={c.key === "name"}
                    onChange={() => setChosen((now) => now.filter((x) => x.key !== c.key))}
                  />
                  {offered.find((x) => x.key === c.key)?.title ?? c.key}
                </label>
                <Button look="quiet" aria-label={w.earlier} disabled={i === 0} onClick={() => shift(i, -1)}>
                  ↑
                </Button>
                <Button
                  look="quiet"
                  aria-label={w.later}
                  disabled={i === chosen.length - 1}
                  onClick={() => shift(i, 1)}
                >
                  ↓
                </Button>
              </div>
            ))}
            <hr />
            {offered
              .filter((c) => !on.has(c.key))
              .map((c) => (
                <div key={c.key} className="plan-pick">
                  <label>
                    <Input
                      type="checkbox"
                      look="bare"
                      checked={false}
                      onChange={() => setChosen((now) => [...now, { key: c.key }])}
                    />
                    {c.title}
                  </label>
                </div>
              ))}
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}

function Views({ info, chosen, setChosen, lens, setLens, open }: Props) {
  const { project } = usePlace();
  const queries = useQueryClient();
  const w = words.plan.view;
  const [name, setName] = useState("");
  const views = info.views as unknown as View[];
  const [wrong, setWrong] = useState("");
  /** Keep the views as they are to be; whether it was done. Where somebody else kept one meanwhile, theirs are read. */
  const keep = async (next: View[]) => {
    try {
      const kept = await take(
        client.PUT("/api/projects/{project}/plan/views", {
          params: { path: { project } },
          body: { revision: info.views_revision, views: next as unknown as Record<string, unknown>[] },
        }),
      );
      queries.setQueryData(planKey(project), (now: { info: PlanInfo } | undefined) =>
        now ? { ...now, info: { ...now.info, views: next, views_revision: kept.revision } } : now,
      );
      setWrong("");
      return true;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setWrong(error.message);
      await queries.invalidateQueries({ queryKey: planKey(project) });
      return false;
    }
  };
  return (
    <Popover.Root positioning={{ placement: "bottom-start" }}>
      <Popover.Trigger asChild>
        <Button>{w.views}</Button>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content className="plan-pop" aria-label={w.views}>
            {views.length === 0 && <p className="soft-text">{w.noViews}</p>}
            {views.map((v) => (
              <div key={v.name} className="plan-pick">
                <Button
                  look="link"
                  onClick={() => {
                    setChosen(v.columns);
                    setLens({ ...PLAIN, ...v.lens });
                  }}
                >
                  {v.name}
                </Button>
                {open && (
                  <Button
                    look="quiet"
                    aria-label={w.forget(v.name)}
                    onClick={() => keep(views.filter((x) => x.name !== v.name))}
                  >
                    ×
                  </Button>
                )}
              </div>
            ))}
            {open && (
              <form
                className="plan-pick"
                onSubmit={async (event) => {
                  event.preventDefault();
                  const called = name.trim();
                  if (!called) return;
                  const others = views.filter((v) => v.name !== called);
                  if (await keep([...others, { name: called, columns: chosen, lens }])) setName("");
                }}
              >
                <Input
                  aria-label={w.name}
                  placeholder={w.name}
                  value={name}
                  onChange={(e) => setName(e.target.value)}
                />
                <Button type="submit">{w.keep}</Button>
              </form>
            )}
            {wrong && (
              <p role="alert" className="field-wrong">
                {wrong}
              </p>
            )}
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}

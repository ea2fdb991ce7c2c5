import { useQueryClient } from "@tanstack/react-query";
import { type Dispatch, memo, type SetStateAction, useMemo, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { ActionMenu, keys, Popup, usePlace } from "../../shared";
import { useWrites } from "../../shared/book";
import { byKey, LookParts } from "../../shared/look";
import type { Scale } from "../../shared/time";
import { Bar, Button, Input, PickLine, RowOf, Select, Soft, Space, Why } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import { type Column, SETS } from "./columns";
import { groundOf } from "./conditions";
import type { Row } from "./row";
import { isPlain, type Lens, PLAIN, SHOWS, type VIEW } from "./tree";
import type { Plan, PlanInfo } from "./usePlan";

type Chosen = { key: string; width?: number }[];

interface Props {
  info: PlanInfo;
  offered: Column[];
  chosen: Chosen;
  setChosen: Dispatch<SetStateAction<Chosen>>;
  /** What the address says, and what it is to say. */
  view: typeof VIEW;
  look: (next: Partial<typeof VIEW>) => void;
  /** Always the same, so that a key that is typed draws none of this again. */
  rows: () => Row[];
  lens: Lens;
  setLens: Dispatch<SetStateAction<Lens>>;
  /** The scale of the timeline beside the sheet; "none" without one. */
  time: string;
  setTime: (time: string) => void;
  open: boolean;
  /** Begins a row below the one that is stood on. */
  add: () => void;
  /** Whether anything is folded. */
  folded: boolean;
  foldAll: (shut: boolean) => void;
  /** What else can be done with the plan. */
  more: { word: string; act: () => void }[];
}

type View = Schemas["View"];

const SHOWN = Object.fromEntries(Object.keys(SHOWS).map((s) => [s, words.plan.view.shows[s] ?? s]));
const SCALES: Scale[] = ["day", "week", "month"];

/** How the sheet is looked at: find, cut, group, columns, named views, and the timeline's own settings. */
export const ViewMenu = memo(function ViewMenu(p: Props) {
  const { info } = p;
  const w = words.plan.view;
  const columns = useMemo(() => byKey(p.offered), [p.offered]);
  return (
    <Bar kind="view">
      <LookParts
        view={p.view}
        look={p.look}
        columns={columns}
        on={groundOf(info)}
        rows={p.rows}
        first={p.offered.find((c) => c.key.startsWith("fields."))?.key ?? "people"}
        whole={words.look.tree}
        shows={SHOWN}
        find={w.find}
      >
        <Sets {...p} />
        <Columns {...p} />
        <Views {...p} />
      </LookParts>
      {isPlain(p.lens) && (
        <Button look="quiet" onClick={() => p.foldAll(!p.folded)}>
          {p.folded ? w.openAll : w.foldAll}
        </Button>
      )}
      {p.open && p.more.length > 0 && <ActionMenu label={words.plan.more} items={p.more} />}
      <Space />
      {p.open && (
        <Button onClick={p.add} data-tip={words.plan.hint}>
          {words.plan.add}
        </Button>
      )}
      <Select aria-label={w.timeline} value={p.time} onChange={(e) => p.setTime(e.target.value)}>
        {SCALES.map((s) => (
          <option key={s} value={s}>
            {w.by(words.time[s])}
          </option>
        ))}
        <option value="none">{w.noTimeline}</option>
      </Select>
    </Bar>
  );
});

/** The named sets of columns, each a press away. */
function Sets({ chosen, setChosen, offered }: Props) {
  const now = chosen.map((c) => c.key).join();
  return (
    <RowOf as="fieldset" mt="0" gap="0" flexWrap="nowrap" aria-label={words.plan.setsOf}>
      {Object.entries(SETS).map(([name, set]) => {
        const own = set.filter((key) => offered.some((c) => c.key === key));
        return (
          <Button
            key={name}
            px="8"
            aria-pressed={now === own.join()}
            onClick={() => setChosen((was) => own.map((key) => was.find((c) => c.key === key) ?? { key }))}
          >
            {words.plan.sets[name]}
          </Button>
        );
      })}
    </RowOf>
  );
}

function Columns({ offered, chosen, setChosen }: Props) {
  const w = words.plan.view;
  const on = new Set(chosen.map((c) => c.key));
  const titleOf = (key: string) => offered.find((x) => x.key === key)?.title.replace("\n", " ") ?? key;
  const shift = (i: number, by: number) =>
    setChosen((now) => {
      const next = [...now];
      const [one] = next.splice(i, 1);
      if (one) next.splice(Math.max(0, i + by), 0, one);
      return next;
    });
  return (
    <Popup word={w.columns} name={w.columns}>
      {chosen.map((c, i) => (
        <PickLine key={c.key}>
          <label>
            <Input
              type="checkbox"
              look="bare"
              checked
              disabled={c.key === "name"}
              onChange={() => setChosen((now) => now.filter((x) => x.key !== c.key))}
            />
            {titleOf(c.key)}
          </label>
          <Button
            look="quiet"
            aria-label={words.look.earlier(titleOf(c.key))}
            disabled={i === 0}
            onClick={() => shift(i, -1)}
          >
            ↑
          </Button>
          <Button
            look="quiet"
            aria-label={words.look.later(titleOf(c.key))}
            disabled={i === chosen.length - 1}
            onClick={() => shift(i, 1)}
          >
            ↓
          </Button>
        </PickLine>
      ))}
      <hr />
      {offered
        .filter((c) => !on.has(c.key))
        .map((c) => (
          <PickLine key={c.key}>
            <label>
              <Input
                type="checkbox"
                look="bare"
                checked={false}
                onChange={() => setChosen((now) => [...now, { key: c.key }])}
              />
              {titleOf(c.key)}
            </label>
          </PickLine>
        ))}
    </Popup>
  );
}

function Views({ info, chosen, setChosen, lens, setLens, open }: Props) {
  const { project } = usePlace();
  const queries = useQueryClient();
  const w = words.plan.view;
  const [name, setName] = useState("");
  const { views } = info;
  const writes = useWrites({
    project,
    part: "views",
    read: () => queries.refetchQueries({ queryKey: keys.project(project).plan() }),
  });
  /** Keeps the views as they are to be; where somebody kept one meanwhile, on top of theirs. */
  const keep = (change: (now: View[]) => View[]) =>
    writes.write(async () => {
      const now = queries.getQueryData<Plan>(keys.project(project).plan())?.info ?? info;
      const next = change(now.views);
      const kept = await take(
        client.PUT("/api/projects/{project}/plan/views", {
          params: { path: { project } },
          body: { revision: now.views_revision, views: next },
        }),
      );
      queries.setQueryData<Plan>(keys.project(project).plan(), (plan) =>
        plan ? { ...plan, info: { ...plan.info, views: next, views_revision: kept.revision } } : plan,
      );
      return kept;
    });
  return (
    <Popup word={w.views} name={w.views}>
      {views.length === 0 && <Soft as="p">{w.noViews}</Soft>}
      {views.map((v) => (
        <PickLine key={v.name}>
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
              onClick={() => keep((now) => now.filter((x) => x.name !== v.name))}
            >
              ×
            </Button>
          )}
        </PickLine>
      ))}
      {open && (
        <PickLine
          as="form"
          onSubmit={async (event) => {
            event.preventDefault();
            const called = name.trim();
            if (!called) return;
            const mine = { name: called, columns: chosen, lens };
            if (await keep((now) => [...now.filter((v) => v.name !== called), mine])) setName("");
          }}
        >
          <Input aria-label={w.name} placeholder={w.name} value={name} onChange={(e) => setName(e.target.value)} />
          <Button type="submit">{w.keep}</Button>
        </PickLine>
      )}
      {writes.refused && (
        <Why role="alert" as="p">
          {writes.refused}
        </Why>
      )}
    </Popup>
  );
}

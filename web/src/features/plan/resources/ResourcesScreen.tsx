import { useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef } from "react";
import type { Schemas } from "../../../api";
import { Bones, format, keys, Notice, useAddressed, usePlace, useSought, useUndo, useWhenever } from "../../../shared";
import { ListSheet } from "../../../shared/sheet";
import { Act, Bar, PartBar, RoomHead, ScrollBox, Select, Soft, Space, Told } from "../../../shared/ui";
import { words } from "../../../shared/words/resources";
import { useLists } from "../CalendarsScreen";
import { listOf } from "../listOf";
import { PlanTabs } from "../PlanTabs";
import { Turns } from "../ProjectScreen";
import { type PlanHandle, usePlan } from "../usePlan";
import { Assigned } from "./Assigned";
import { columnsOf, type Resource, rowOf, SETS, type SetOf } from "./columns";
import { Leave } from "./Leave";
import { Load, useLoads } from "./Load";
import { DrawOn, Standing } from "./Organisation";
import { Rates } from "./Rates";
import { sayOver } from "./saying";

const w = words.resources;
const LOOK = { who: "", part: "load", kind: "", skill: "", columns: "usual" };
type Part = keyof typeof w.parts;

/** People, roles, equipment and material as a sheet; below it the load, rates, leave and work of the one that one stands on. */
export function ResourcesScreen() {
  const { project } = usePlace();
  const plan = usePlan(project, "resources", keys.project(project).lists);
  const lists = useLists(project);
  if (lists.isPending) return <Bones />;
  if (!lists.data) return <Notice bad>{lists.error?.message}</Notice>;
  return <Sheet key={project} plan={plan} lists={lists.data} />;
}

function Sheet({ plan, lists }: { plan: PlanHandle; lists: Schemas["ListsOut"] }) {
  const { project, page, person } = usePlace();
  const queries = useQueryClient();
  const open = person.role !== "reader" && page.state === "wet";
  const [look, setLook] = useAddressed(`${project}/resources`, LOOK);
  const sought = useSought("resource");
  const loads = useLoads(project);
  const { resources } = lists;
  useWhenever([sought], () => {
    if (sought) setLook({ who: sought.code, kind: "", skill: "" });
  });
  useUndo({ undo: () => open && plan.undo(), redo: () => open && plan.redo() });
  const skills = [...new Set(resources.flatMap((r) => r.skills ?? []))].sort();
  const seen = resources.filter(
    (r) => (!look.kind || (r.kind ?? "labour") === look.kind) && (!look.skill || r.skills?.includes(look.skill)),
  );
  const columns = useMemo(() => {
    const all = columnsOf(lists);
    const set = SETS[(look.columns in SETS ? look.columns : "usual") as SetOf];
    const own = look.columns === "people" ? all.filter((c) => c.key.startsWith("fields.")) : [];
    return [...set.flatMap((key) => all.find((c) => c.key === key) ?? []), ...own];
  }, [lists, look.columns]);
  const { add, ...hands } = listOf(plan, "resources", (row, field) => {
    const now = queries.getQueryData<Schemas["ListsOut"]>(keys.project(project).lists);
    const found = now?.resources.find((r) => r.id === row);
    return found && rowOf(found).cells[field];
  });
  const chosen = resources.find((r) => r.code === look.who) ?? seen[0];
  const stood = useRef("");
  const first = useRef(look.who ? { code: look.who } : null);
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told role="status">
          {plan.refused ? (
            <Act role="alert">{plan.refused}</Act>
          ) : plan.effect ? (
            <>
              {plan.effect.label}. {plan.effect.over.length > 0 && <Act>{sayOver(plan.effect.over)}</Act>}
            </>
          ) : (
            w.inForce(resources.length, format.fullDay(lists.rates_on))
          )}
        </Told>
        <Space />
        {open && <Turns plan={plan} />}
      </RoomHead>
      <PlanTabs />
      <Bar kind="view">
        <label>
          {w.kind}
          <Select value={look.kind} onChange={(e) => setLook({ kind: e.target.value })}>
            <option value="">{w.all}</option>
            {w.kinds.map(([key, word]) => (
              <option key={key} value={key}>
                {word}
              </option>
            ))}
          </Select>
        </label>
        <label>
          {w.skill}
          <Select value={look.skill} onChange={(e) => setLook({ skill: e.target.value })}>
            <option value="">{w.all}</option>
            {skills.map((skill) => (
              <option key={skill}>{skill}</option>
            ))}
          </Select>
        </label>
        <label>
          {w.columns}
          <Select value={look.columns} onChange={(e) => setLook({ columns: e.target.value })}>
            {Object.entries(w.sets).map(([key, word]) => (
              <option key={key} value={key}>
                {word}
              </option>
            ))}
          </Select>
        </label>
        <Space />
        {open && <DrawOn plan={plan} here={resources} />}
      </Bar>
      <ScrollBox>
        {resources.length === 0 && <Soft as="p">{open ? w.none : w.nobody}</Soft>}
        <ListSheet
          label={w.sheet}
          of={project}
          rows={seen.map(rowOf)}
          columns={columns}
          open={open}
          name="name"
          most={9}
          {...hands}
          begin={{ needs: ["name"], add }}
          seek={sought ?? first.current}
          stand={(row) => {
            if (row?.cells.code && row.cells.code !== stood.current) setLook({ who: row.cells.code });
            stood.current = row?.cells.code ?? "";
          }}
        />
        {chosen && (
          <One
            key={chosen.id}
            resource={chosen}
            lists={lists}
            plan={plan}
            open={open}
            loads={loads}
            part={(look.part in w.parts ? look.part : "load") as Part}
            go={(part) => setLook({ part })}
          />
        )}
      </ScrollBox>
    </>
  );
}

interface OneProps {
  resource: Resource;
  lists: Schemas["ListsOut"];
  plan: PlanHandle;
  open: boolean;
  loads: ReturnType<typeof useLoads>;
  part: Part;
  go: (part: string) => void;
}

/** What belongs to one resource, a part at a time. */
function One({ resource, lists, plan, open, loads, part, go }: OneProps) {
  const { id, name } = resource;
  const parts = Object.entries(w.parts).map(([key, word]): [string, string] => [
    key,
    key === "assigned" ? `${word} ${resource.activities}` : word,
  ]);
  return (
    <section aria-label={name}>
      <RoomHead px="0" pb="2">
        <h2>{name}</h2>
        <PartBar label={w.partsOf(name)} parts={parts} at={part} go={go} px="0" pb="0" />
      </RoomHead>
      {part === "load" && <Load resource={resource} of={loads} plan={plan} open={open} />}
      {part === "rates" && (
        <Rates
          id={id}
          name={name}
          rates={resource.rates ?? []}
          plan={plan}
          open={open && (resource.kept === "own" || !!resource.own_rates)}
          currency={lists.currency}
        />
      )}
      {part === "leave" && <Leave resource={resource} plan={plan} open={open} />}
      {part === "assigned" && <Assigned resource={resource} lists={lists} plan={plan} open={open} />}
      {part === "organisation" && <Standing resource={resource} plan={plan} open={open} />}
    </section>
  );
}

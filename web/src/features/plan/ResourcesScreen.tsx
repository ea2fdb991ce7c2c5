import { useEffect, useState } from "react";
import type { Schemas } from "../../api";
import { Bones, Entry, keys, Notice, Pick, usePlace, useSought } from "../../shared";
import { Act, Button, FactsGrid, Input, PartTitle, RowOf, ScrollBox, Select, Soft, TickBox } from "../../shared/ui";
import { words } from "../../shared/words/resources";
import { useLists } from "./CalendarsScreen";
import { Load, useLoads } from "./Load";
import { DrawOn, Standing } from "./Organisation";
import { Rates } from "./Rates";
import { Sided } from "./Sided";
import { type PlanHandle, usePlan } from "./usePlan";

type Resource = Schemas["ResourceOut"];
const w = words.resources;

/** People, roles, equipment and material: rates by date, where they are used, and their load over time. */
export function ResourcesScreen() {
  const { project, page, person } = usePlace();
  const plan = usePlan(project, "resources", keys.project(project).lists);
  const lists = useLists(project);
  const [at, setAt] = useState<string | null>(null);
  const sought = useSought("resource");
  const loaded = useLoads(project);
  const all = lists.data?.resources;
  useEffect(() => {
    const found = sought && all?.find((r) => r.code === sought.code);
    if (found) setAt(found.id);
  }, [sought, all]);
  if (lists.isPending) return <Bones />;
  if (!lists.data) return <Notice bad>{lists.error?.message}</Notice>;
  const open = person.role !== "reader" && page.state === "wet";
  const resources = lists.data.resources;
  const chosen = resources.find((r) => r.id === at) ?? resources[0];
  const over = new Map((loaded.loads.data?.loads ?? []).map((l) => [l.id, l.over.length]));
  const overOf = (id: string) => (over.get(id) ? w.over(over.get(id) ?? 0, loaded.bucket) : "");
  return (
    <Sided
      title={w.title}
      plan={plan}
      open={open}
      items={resources.map((r) => ({
        id: r.id,
        name: r.name,
        beside: <ResourceNote resource={r} trouble={overOf(r.id)} />,
      }))}
      at={chosen?.id}
      choose={setAt}
      none={w.none}
      addLabel={w.add}
      add={(name) => ({ do: "add", list: "resources", cells: { name } })}
      more={<DrawOn plan={plan} here={resources} />}
    >
      {chosen && (
        <ScrollBox>
          <Editor key={chosen.id} resource={chosen} all={resources} lists={lists.data} plan={plan} open={open} />
          <Load resource={chosen} of={loaded} />
        </ScrollBox>
      )}
    </Sided>
  );
}

function ResourceNote({ resource, trouble }: { resource: Resource; trouble: string }) {
  return (
    <>
      <Soft>
        {" "}
        {resource.code}
        {resource.role && `, ${w.roleShort}`}
        {resource.shared && `, ${w.sharedShort}`}
      </Soft>
      {trouble && <Act> {trouble}</Act>}
    </>
  );
}

interface Part {
  resource: Resource;
  all: Resource[];
  lists: Schemas["ListsOut"];
  plan: PlanHandle;
  open: boolean;
}

function Editor({ resource, all, lists, plan, open }: Part) {
  const sought = useSought("resource");
  const [by, setBy] = useState("");
  const [where, setWhere] = useState("");
  const id = resource.id;
  const set = (cells: Record<string, unknown>, field: string, text = "") =>
    plan.change([{ do: "set", row: id, cells }], { row: id, field, text });
  const trouble = (field: string) => plan.troubles[`${id}:${field}`]?.message;
  const calendars = lists.calendars;
  /** What the organisation keeps is not written here. */
  const kept = !open || resource.kept !== "own";
  const found = where.trim()
    ? lists.activities.filter((a) => `${a.code} ${a.name}`.toLowerCase().includes(where.trim().toLowerCase()))
    : [];
  return (
    <>
      <FactsGrid>
        <Entry
          label={w.name}
          value={resource.name}
          disabled={kept}
          write={(name) => set({ name }, "name", name)}
          trouble={trouble("name")}
        />
        <Entry
          label={w.code}
          value={resource.code}
          disabled={!open}
          write={(code) => set({ code }, "code", code)}
          trouble={trouble("code")}
        />
        <Pick
          label={w.kind}
          value={resource.kind ?? "labour"}
          disabled={kept}
          options={[
            ["labour", w.labour],
            ["equipment", w.equipment],
            ["material", w.material],
          ]}
          write={(kind) => set({ kind }, "kind", kind)}
        />
        <Entry
          number
          label={w.units}
          goTo={sought?.code === resource.code && sought.key === "units" ? sought : null}
          value={String(resource.units ?? 1)}
          disabled={!open}
          write={(units) => set({ units }, "units", units)}
          trouble={trouble("units")}
        />
        <Pick
          label={w.calendar}
          value={resource.calendar ?? ""}
          disabled={!open}
          options={[["", w.projectCalendar], ...calendars.map((c): [string, string] => [c.code, c.name])]}
          write={(calendar) => set({ calendar }, "calendar", calendar)}
        />
        <Pick
          label={w.actuals}
          value={resource.actuals ?? ""}
          disabled={!open}
          options={w.actualsOf}
          write={(actuals) => set({ actuals }, "actuals")}
        />
        <Entry
          label={w.person}
          value={resource.person ?? ""}
          placeholder={w.personHint}
          disabled={!open}
          write={(person) => set({ person }, "person", person)}
          trouble={trouble("person")}
        />
        <Entry
          label={w.skills}
          value={(resource.skills ?? []).join("; ")}
          placeholder={w.skillsHint}
          disabled={kept}
          write={(skills) => set({ skills }, "skills", skills)}
          trouble={trouble("skills")}
        />
        <TickBox>
          <Input
            type="checkbox"
            look="bare"
            checked={!!resource.role}
            disabled={kept}
            onChange={(e) => set({ role: e.target.checked }, "role")}
          />
          {w.role}
        </TickBox>
      </FactsGrid>
      <PartTitle>{w.rates}</PartTitle>
      <Rates
        key={id}
        id={id}
        name={resource.name}
        rates={resource.rates ?? []}
        plan={plan}
        open={open && (resource.kept === "own" || !!resource.own_rates)}
        currency={lists.currency}
      />
      <Standing resource={resource} plan={plan} open={open} />
      <PartTitle>{w.where(resource.activities)}</PartTitle>
      {open && (
        <>
          <RowOf>
            <Input
              aria-label={w.assignTo}
              placeholder={w.assignTo}
              width="260px"
              value={where}
              onChange={(e) => setWhere(e.target.value)}
            />
            <Button
              disabled={!found.length}
              onClick={() => {
                plan.change([{ do: "assign", resource: id, rows: found.map((a) => a.id) }]);
                setWhere("");
              }}
            >
              {w.assign(found.length)}
            </Button>
          </RowOf>
          <RowOf>
            <Select aria-label={w.replace} value={by} onChange={(e) => setBy(e.target.value)}>
              <option value="">{w.replace}</option>
              {all
                .filter((r) => r.id !== id)
                .map((r) => (
                  <option key={r.id} value={r.id}>
                    {r.name}
                  </option>
                ))}
            </Select>
            <Button
              disabled={!by || !resource.activities}
              onClick={() => plan.change([{ do: "replace", resource: id, by }])}
            >
              {w.replaceNow}
            </Button>
            {resource.activities === 0 && (
              <Button onClick={() => plan.change([{ do: "remove", rows: [id] }])}>{w.remove}</Button>
            )}
          </RowOf>
        </>
      )}
    </>
  );
}

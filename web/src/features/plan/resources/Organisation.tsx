import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../../api";
import { Entry, keys, usePlace } from "../../../shared";
import { type Asked, refresh, useWrites } from "../../../shared/book";
import { Button, FactsGrid, OnOff, PartTitle, RowOf, Select, Soft, Told } from "../../../shared/ui";
import { words as calendars } from "../../../shared/words/plan";
import { words } from "../../../shared/words/resources";
import { daysInOrder } from "../CalendarsScreen";
import type { Verb } from "../row";
import type { PlanHandle } from "../usePlan";
import { Rates } from "./Rates";

type Resource = Schemas["ResourceOut"];
type Cells = Schemas["KeepForm"]["cells"];
const w = words.resources;

export const useShared = () =>
  useQuery({ queryKey: keys.resources, queryFn: () => take(client.GET("/api/resources")) });

interface Part {
  resource: Resource;
  plan: PlanHandle;
  open: boolean;
}

/** How a project's resource stands to the organisation's, and what can be done about that. */
export function Standing({ resource, plan, open }: Part) {
  const { project, everywhere } = usePlace();
  const queries = useQueryClient();
  const [forAll, setForAll] = useState(false);
  const shared = useShared();
  const kept = shared.data?.resources.find((r) => r.code === resource.shared);
  const approves = everywhere === "approver";
  const again = () => Promise.all([queries.refetchQueries({ queryKey: keys.resources }), refresh(queries, project)]);
  const writes = useWrites({ project, part: "organisation", read: again });
  const share = () =>
    writes.write(async () => {
      await take(client.POST("/api/resources", { body: { project, row: resource.id, code: "" } }));
      await again();
    });
  const own = resource.kept === "own";
  const draw: Verb = { do: "draw", shared: resource.shared ?? "", row: resource.id };
  if (own && !approves) return null;
  return (
    <>
      <PartTitle>{w.organisation}</PartTitle>
      <Soft as="p">
        {w.standing(resource.kept, resource.shared ?? "")}
        {kept && ` ${w.drawing(kept.projects.map((p) => p.project))}`}
      </Soft>
      {writes.refused && <Told role="alert">{writes.refused}</Told>}
      <RowOf>
        {open && resource.kept === "other" && <Button onClick={() => plan.change([draw])}>{w.takeOver}</Button>}
        {open && !own && (
          <OnOff
            on={!!resource.own_rates}
            set={(on) => {
              const set: Verb = { do: "set", row: resource.id, cells: { own_rates: on } };
              plan.change(on || !kept ? [set] : [set, draw]);
            }}
          >
            {w.ownRates}
          </OnOff>
        )}
        {open && !own && <Button onClick={() => plan.change([{ do: "leave", row: resource.id }])}>{w.leave}</Button>}
        {open && approves && (own || resource.kept === "gone") && <Button onClick={share}>{w.share}</Button>}
        {approves && kept && (
          <Button aria-pressed={forAll} onClick={() => setForAll((now) => !now)}>
            {w.forAll}
          </Button>
        )}
      </RowOf>
      {forAll && kept && <ForAll key={kept.code} kept={kept} again={again} />}
    </>
  );
}

/** What the organisation keeps of a resource, written for every project that draws on it. */
function ForAll({ kept, again }: { kept: Schemas["SharedOut"]; again: () => Promise<unknown> }) {
  const { project } = usePlace();
  const queries = useQueryClient();
  const writes = useWrites({ project, part: "organisation", read: again });
  const [told, tell] = useState("");
  const id = `organisation ${kept.code}`;
  /** As it was read last: a write waits for those before it, and is made of what these left. */
  const now = () =>
    queries.getQueryData<Schemas["SharedList"]>(keys.resources)?.resources.find((r) => r.code === kept.code) ?? kept;
  const put = (cells: () => Cells, at: Asked[], read: () => unknown) =>
    writes.write(
      async () => {
        const body = { code: kept.code, revision: now().revision, cells: cells() };
        const done = await take(client.PUT("/api/resources", { body }));
        tell(w.followed(done.followed, done.left));
        await again();
      },
      at.map((a) => ({ ...a, current: () => JSON.stringify(read()) })),
    );
  const set = (field: "name" | "units" | "skills" | "currency", text: string) =>
    put(
      () => ({ [field]: text }),
      [{ row: id, field, text }],
      () => now()[field],
    );
  const setDay = (day: string, text: string) =>
    put(
      () => ({ week: { ...now().week, [day]: text } }),
      [{ row: id, field: `week.${day}`, text }],
      () => now().week[day],
    );
  const trouble = (field: string) => writes.troubles[`${id}:${field}`]?.message;
  /** The list of rates writes as it does in a project; what it fills goes to the organisation. */
  const list = {
    troubles: writes.troubles,
    waiting: writes.waiting,
    drop: writes.drop,
    fill: ([verb]: Verb[], at: Asked[]) =>
      put(
        () => (verb?.do === "set" ? verb.cells : {}),
        at,
        () => now().rates,
      ),
  };
  return (
    <>
      <Told role="status">{told || w.forAllHelp}</Told>
      <FactsGrid>
        <Entry label={w.name} value={kept.name} write={(t) => set("name", t)} trouble={trouble("name")} />
        <Entry
          number
          label={w.units}
          value={String(kept.units)}
          write={(t) => set("units", t)}
          trouble={trouble("units")}
        />
        <Entry
          label={w.skills}
          value={kept.skills.join("; ")}
          write={(t) => set("skills", t)}
          trouble={trouble("skills")}
        />
        <Entry
          label={w.currency}
          value={kept.currency}
          write={(t) => set("currency", t)}
          trouble={trouble("currency")}
        />
        {daysInOrder().map((day) => (
          <Entry
            key={day}
            label={calendars.calendars.days[day] ?? day}
            value={(kept.week[day] ?? []).join(", ")}
            placeholder={w.dayOff}
            write={(t) => setDay(day, t)}
            trouble={trouble(`week.${day}`)}
          />
        ))}
      </FactsGrid>
      {kept.days_off > 0 && <Soft as="p">{w.daysOff(kept.days_off)}</Soft>}
      <Rates id={id} name={kept.name} rates={kept.rates} plan={list} open currency={kept.currency} />
    </>
  );
}

/** Draw on a resource of the organisation that the project has not yet. */
export function DrawOn({ plan, here }: { plan: PlanHandle; here: Resource[] }) {
  const shared = useShared();
  const drawn = new Set(here.map((r) => r.shared));
  const left = (shared.data?.resources ?? []).filter((r) => !drawn.has(r.code));
  if (!left.length) return null;
  return (
    <Select
      aria-label={w.drawOn}
      value=""
      width="100%"
      mt="8"
      onChange={(e) => e.target.value && plan.change([{ do: "draw", shared: e.target.value }])}
    >
      <option value="">{w.drawOn}</option>
      {left.map((r) => (
        <option key={r.code} value={r.code}>
          {r.name} ({r.code})
        </option>
      ))}
    </Select>
  );
}

import { useQueryClient } from "@tanstack/react-query";
import { Fragment, type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api";
import { Bones, Entry, format, keys, Notice, Pick, partOf, usePlace } from "../../shared";
import { useWrites } from "../../shared/book";
import { Act, Button, FactsGrid, RoomHead, RowOf, ScrollBox, Soft, Space, Tabs, Told } from "../../shared/ui";
import { words as kinds } from "../../shared/words/kinds";
import { words } from "../../shared/words/plan";
import { ProjectAccess } from "../people";
import { Kinds } from "./Kinds";
import { OwnFacts } from "./OwnFacts";
import { PlanTabs } from "./PlanTabs";
import { Register } from "./Register";
import { useAbout } from "./useAbout";
import { type PlanHandle, usePlan } from "./usePlan";

const w = words.project;
const TEXTS = ["name", "code", "client", "manager", "responsible", "currency"] as const;
const RHYTHMS = ["every week on Friday", "every 2 weeks on Friday", "every month on the last working day"];
/** The tab beside the registers that says who sees the project. */
const ACCESS = "access";
const BENEFIT = ["benefit", "benefit_basis"] as const;
const DATES = ["start", "deadline", "imposed_finish"] as const;

/** The project's own page: what it is, and its registers. */
export function ProjectScreen() {
  const { project, page, person } = usePlace();
  const plan = usePlan(project, "project", keys.project(project).about);
  const about = useAbout(project);
  const [register, setRegister] = useState("risks");
  if (about.isPending || plan.sheet.isPending) return <Bones />;
  if (!about.data) return <Notice bad>{about.error?.message}</Notice>;
  const open = person.role !== "reader" && page.state === "wet";
  const chosen = about.data.registers.find((r) => r.key === register);
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told role="status">{plan.refused ?? plan.effect?.label ?? ""}</Told>
        <Space />
        {open && <Turns plan={plan} />}
      </RoomHead>
      <PlanTabs />
      <ScrollBox>
        <Facts about={about.data} plan={plan} open={open} />
        <Tabs
          label={w.registers}
          parts={[
            ...about.data.registers.map((r): [string, ReactNode] => [
              r.key,
              <Fragment key={r.key}>
                {w.register[r.key] ?? r.key} <Soft>{r.rows.length || ""}</Soft>
              </Fragment>,
            ]),
            [ACCESS, w.access],
          ]}
          at={register}
          go={setRegister}
        >
          {register === ACCESS && <ProjectAccess project={project} />}
          {chosen && <Register key={chosen.key} register={chosen} plan={plan} open={open} />}
        </Tabs>
      </ScrollBox>
    </>
  );
}

/** Undo and redo beside a screen's title. */
export function Turns({ plan }: { plan: PlanHandle }) {
  return (
    <>
      <Button onClick={plan.undo}>{words.sheet.undo}</Button>
      <Button onClick={plan.redo}>{words.sheet.redo}</Button>
    </>
  );
}

interface Part {
  plan: PlanHandle;
  open: boolean;
}

function Facts({ about, plan, open }: Part & { about: Schemas["ProjectPage"] }) {
  const { project, everywhere } = usePlace();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const own = about.project as Record<string, string | undefined>;
  const values = (about.project.fields ?? {}) as Record<string, unknown>;
  const [editing, editKinds] = useState(false);
  const ofKind = (kind: string) => plan.change([{ do: "kind", kind }], { row: id, field: "kind", text: kind });
  const id = String(own.id);
  const write = (key: string) => async (text: string) => {
    const done = await plan.change([{ do: "set", row: id, cells: { [key]: text } }], { row: id, field: key, text });
    if (done && key === "code") {
      queries.removeQueries({ queryKey: keys.project(project).all });
      navigate(`/${encodeURIComponent(text.trim())}/now/plan/project`, { replace: true });
    }
  };
  const trouble = (key: string) => plan.troubles[`${id}:${key}`]?.message;
  const calendars = about.calendars.map((c): [string, string] => [c.code, c.name]);
  const states = known(about.states, own.state);
  const entry = (key: string, value = own[key] ?? "") => (
    <Entry
      key={key}
      label={w.fields[key] ?? key}
      value={value}
      disabled={!open}
      write={write(key)}
      trouble={trouble(key)}
    />
  );
  return (
    <FactsGrid>
      {TEXTS.map((key) => entry(key))}
      {DATES.map((key) => entry(key, own[key] ? format.fullDay(own[key]) : ""))}
      <Pick
        label={w.fields.calendar ?? ""}
        value={own.calendar ?? ""}
        options={calendars}
        disabled={!open}
        write={write("calendar")}
      />
      <Entry
        label={w.fields.rhythm ?? ""}
        value={own.rhythm ?? ""}
        choices={RHYTHMS}
        placeholder={w.noRhythm}
        disabled={!open}
        write={write("rhythm")}
        trouble={trouble("rhythm")}
      />
      <Pick
        label={w.fields.state ?? ""}
        value={own.state ?? ""}
        options={[["", "–"], ...states.map((s): [string, string] => [s, s])]}
        disabled={!open}
        write={write("state")}
      />
      <Pick
        label={w.fields.kind ?? ""}
        value={own.kind ?? ""}
        options={[["", "–"], ...known(about.kinds, own.kind).map((k): [string, string] => [k, k])]}
        disabled={!open}
        write={ofKind}
      />
      {BENEFIT.map((key) => entry(key))}
      <OwnFacts fields={about.fields} values={values} open={open} write={write} trouble={trouble} />
      <Pick
        label={w.fields.treatment ?? ""}
        value={own.treatment ?? "retained"}
        options={[
          ["retained", w.retained],
          ["override", w.override],
          ["recorded", w.recorded],
        ]}
        disabled={!open}
        write={write("treatment")}
      />
      <Pick
        label={w.fields.actuals ?? ""}
        value={own.actuals ?? "posted"}
        options={w.actuals}
        disabled={!open}
        write={write("actuals")}
      />
      <Pick
        label={w.fields.eac ?? ""}
        value={own.eac ?? "bottom_up"}
        options={w.eacs}
        disabled={!open}
        write={write("eac")}
      />
      <Entry
        number
        label={w.fields.critical_float ?? ""}
        value={own.critical_float ?? ""}
        placeholder="0d"
        disabled={!open}
        write={write("critical_float")}
        trouble={trouble("critical_float")}
      />
      <div data-wide="">
        <Entry
          long
          label={w.fields.description ?? ""}
          value={own.description ?? ""}
          disabled={!open}
          write={write("description")}
        />
      </div>
      {about.brought_in && (
        <div data-wide="">
          <Soft>{about.brought_in}</Soft>
        </div>
      )}
      {(about.kind_state === "other" || about.kind_state === "gone") && (
        <div data-wide="">
          <RowOf>
            <Soft>{kinds.kinds[about.kind_state]}</Soft>
            {open && about.kind_state === "other" && (
              <Button onClick={() => ofKind(own.kind ?? "")}>{kinds.kinds.takeOver}</Button>
            )}
            {trouble("kind") && <Act role="alert">{trouble("kind")}</Act>}
          </RowOf>
        </div>
      )}
      {everywhere === "approver" && <States states={about.states} />}
      {everywhere === "approver" && (
        <div data-wide="">
          <Button aria-expanded={editing} onClick={() => editKinds((now) => !now)}>
            {kinds.kinds.edit}
          </Button>
          {editing && <Kinds first={own.kind} />}
        </div>
      )}
    </FactsGrid>
  );
}

/** What the organisation lists, with what the project says besides. */
const known = (listed: string[], own: string | undefined) => (own && !listed.includes(own) ? [...listed, own] : listed);

function States({ states }: { states: string[] }) {
  const queries = useQueryClient();
  const read = () => queries.invalidateQueries({ predicate: ({ queryKey }) => partOf(queryKey).part === "about" });
  const writes = useWrites({ project: "organisation", part: "states", read });
  const keep = async (text: string) => {
    const body = { states: text.split(/[\n;]/) };
    if (await writes.write(() => take(client.PUT("/api/states", { body })))) read();
  };
  return (
    <div data-wide="">
      <Entry label={w.states} value={states.join("; ")} write={keep} trouble={writes.refused ?? undefined} />
    </div>
  );
}

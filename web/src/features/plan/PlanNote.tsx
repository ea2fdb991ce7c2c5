import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api";
import { Bones, Entry, format, keys, Notice, usePlace } from "../../shared";
import { settled } from "../../shared/book";
import { Button, MarginHead, MarginTitle, Pair, RowOf, Why, Working } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import { Costs } from "./note/Costs";
import { Dates } from "./note/Dates";
import { Earns } from "./note/Earns";
import { Links } from "./note/Links";
import { People } from "./note/People";
import { type Part, useWrite } from "./note/part";
import { usePlan } from "./usePlan";

const w = words.plan.note;

/** The margin of an activity of the plan: what drives it, and all of it that can be changed. */
export function PlanNote({ topic: { id } }: { topic: { id: string } }) {
  const { project, page, person } = usePlace();
  const plan = usePlan(project, "note");
  const note = useQuery({
    queryKey: keys.project(project).row(id, plan.option),
    queryFn: async ({ signal }) => {
      await settled(project);
      signal.throwIfAborted();
      const path = { project, row: id };
      return take(
        plan.option === null
          ? client.GET("/api/projects/{project}/plan/rows/{row}", { params: { path }, signal })
          : client.GET("/api/projects/{project}/options/{id}/plan/rows/{row}", {
              params: { path: { ...path, id: plan.option } },
              signal,
            }),
      );
    },
    placeholderData: (before) => (before?.row.id === id ? before : undefined),
  });
  if (note.isPending) return <Bones />;
  if (!note.data) return <Notice bad>{note.error?.message}</Notice>;
  const open = person.role !== "reader" && page.state === "wet";
  const info = plan.sheet.data?.info;
  const { row } = note.data;
  const given = { note: note.data, plan, open };
  return (
    <Box>
      <MarginTitle>{row.name}</MarginTitle>
      <Box color="soft">{row.code}</Box>
      <Pair dotted facts>
        <span>{words.margin.span(format.weekDay(row.start), format.weekDay(row.finish))}</span>
        <span>{row.total_float == null ? "" : w.float(format.tenth(row.total_float))}</span>
      </Pair>
      {note.data.drivers.length > 0 && (
        <>
          <MarginHead>{words.margin.drives}</MarginHead>
          {note.data.drivers.map((d) => (
            <div key={d}>{d}</div>
          ))}
        </>
      )}
      {row.odd === "duration" && <Odd {...given} />}
      {plan.refused && <Why role="alert">{plan.refused}</Why>}
      <Responsible {...given} names={info?.responsible ?? []} />
      <Links {...given} />
      <Dates {...given} info={info} />
      <People {...given} info={info} />
      <Costs {...given} />
      <Earns {...given} />
    </Box>
  );
}

/** Who answers for it, and what is worth knowing of it. */
function Responsible({ names, ...part }: Part & { names: string[] }) {
  const { set, trouble } = useWrite(part);
  const { row } = part.note;
  return (
    <>
      <Entry
        label={words.plan.columns.responsible}
        value={row.responsible || row.answers || ""}
        choices={names}
        disabled={!part.open}
        write={(responsible) => set({ responsible }, "responsible", responsible)}
        trouble={trouble("responsible")}
      />
      <Entry
        label={words.plan.columns.note}
        value={row.note ?? ""}
        long
        disabled={!part.open}
        write={(note) => set({ note }, "note", note)}
        trouble={trouble("note")}
      />
    </>
  );
}

function Odd(part: Part) {
  const { set } = useWrite(part);
  return (
    <Working role="note">
      {w.oddMilestone(part.note.row.duration ?? "")}
      {part.open && (
        <RowOf>
          <Button onClick={() => set({ kind: "task" }, "kind", "")}>{w.makeTask}</Button>
          <Button onClick={() => set({ duration: "" }, "duration", "")}>{w.dropDuration}</Button>
        </RowOf>
      )}
    </Working>
  );
}

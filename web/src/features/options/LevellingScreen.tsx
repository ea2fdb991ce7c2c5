import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api";
import { format, keys, Notice, useAddressed, usePlace } from "../../shared";
import { Act, Bar, Button, DataTable, Note, PartTitle, RoomHead, ScrollBox, Soft, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/options";
import { OptionTabs } from "./OptionTabs";
import { useOptionWrites } from "./useOptionWrites";

const w = words.levelling;
const VIEW = { mode: "within_float" };
type Level = Schemas["LevelOut"];

/** Levelling, seen before it is done: who is over-allocated, what would move by how much and why, what stays. */
export function LevellingScreen() {
  const { project, page, person, tell } = usePlace();
  const [{ mode }, set] = useAddressed(`${project}/levelling`, VIEW);
  const does = useOptionWrites("levelling");
  const navigate = useNavigate();
  const way = mode === "beyond_float" ? "beyond_float" : "within_float";
  const level = useQuery({
    queryKey: keys.project(project).options.level(way),
    queryFn: () =>
      take(client.GET("/api/projects/{project}/options/level/{mode}", { params: { path: { project, mode: way } } })),
  });
  const open = person.role !== "reader" && page.state === "wet";
  const make = async () => {
    const made = await does.make(w.name(way), { proposals: [`level/${way}`] });
    if (!made) return;
    tell({ about: "option", id: String(made.id), code: "" });
    navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/options`);
  };
  const data = level.data;
  return (
    <>
      <RoomHead>
        <h1>{words.options.title}</h1>
        <Told role="status">
          {does.writes.refused && <Act role="alert">{does.writes.refused}</Act>}
          {data && !does.writes.refused && sayFinish(data)}
        </Told>
        <Space />
        {open && data && data.moved.length > 0 && (
          <Button look="seal" onClick={() => void make()}>
            {w.make}
          </Button>
        )}
      </RoomHead>
      <OptionTabs />
      <Bar role="group" aria-label={w.modes}>
        {(["within_float", "beyond_float"] as const).map((m) => (
          <Button key={m} aria-pressed={m === way} onClick={() => set({ mode: m })}>
            {m === "within_float" ? w.within : w.beyond}
          </Button>
        ))}
      </Bar>
      <ScrollBox>
        {level.isPending && <Notice>{w.computing}</Notice>}
        {level.isError && <Notice bad>{level.error.message}</Notice>}
        {data && data.before.length === 0 && data.moved.length === 0 && <Soft as="p">{w.none}</Soft>}
        {data && data.before.length > 0 && <Over level={data} />}
        {data && data.moved.length > 0 && <Moved level={data} />}
      </ScrollBox>
    </>
  );
}

const sayFinish = (x: Level) =>
  Math.abs(x.days) < 0.005 ? w.stands : w.moves(format.drift(x.days), format.fullDay(x.finish));

const leftOf = (left: Level["after"][number] | undefined) => (left ? <Act>{format.tenth(left.hours)}</Act> : "0");

function Over({ level }: { level: Level }) {
  const after = new Map(level.after.map((r) => [r.code, r]));
  return (
    <>
      <PartTitle>{w.overTitle}</PartTitle>
      <DataTable
        rows={level.before}
        keyOf={(r) => r.code}
        columns={[
          { title: w.resource, cell: (r) => r.name },
          { title: w.before, kind: "num", cell: (r) => format.tenth(r.hours) },
          {
            title: w.after,
            kind: "num",
            cell: (r) => leftOf(after.get(r.code)),
          },
          { title: w.first, kind: "date", cell: (r) => format.day(r.first) },
          { title: w.last, kind: "date", cell: (r) => format.day(r.last) },
          { title: w.who, cell: (r) => (after.get(r.code) ?? r).activities.join(", ") },
        ]}
      />
      {level.after.length > 0 && <Note as="p">{w.staysTitle}</Note>}
    </>
  );
}

function Moved({ level }: { level: Level }) {
  const { seek } = usePlace();
  return (
    <>
      <PartTitle>{w.movedTitle(level.moved.length)}</PartTitle>
      <DataTable
        rows={level.moved}
        keyOf={(m) => m.code}
        columns={[
          {
            title: w.activity,
            cell: (m) => (
              <Button look="link" onClick={() => seek(m.code)}>
                {m.name}
              </Button>
            ),
          },
          {
            title: w.start,
            kind: "date",
            cell: (m) => (
              <>
                {format.day(m.was_start)} → {format.day(m.start)}
              </>
            ),
          },
          {
            title: w.finish,
            kind: "date",
            cell: (m) => (
              <>
                {format.day(m.was_finish)} → {format.day(m.finish)}
              </>
            ),
          },
          { title: w.by, kind: "num", cell: (m) => (Math.abs(m.days) < 0.005 ? "0" : format.drift(m.days)) },
          {
            title: w.waits,
            cell: (m) => (m.waits_for.length ? m.waits_for.join(", ") : <Soft>{m.by_links ? w.links : w.place}</Soft>),
          },
        ]}
      />
    </>
  );
}

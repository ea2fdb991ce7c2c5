import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api";
import { format, keys, Notice, useAddressed, usePlace } from "../../shared";
import { Act, Bar, Button, Note, PartTitle, RoomHead, ScrollBox, Soft, Space, Table, Told } from "../../shared/ui";
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

function Over({ level }: { level: Level }) {
  const after = new Map(level.after.map((r) => [r.code, r]));
  return (
    <>
      <PartTitle>{w.overTitle}</PartTitle>
      <Table>
        <thead>
          <tr>
            <th>{w.resource}</th>
            <th data-num="">{w.before}</th>
            <th data-num="">{w.after}</th>
            <th>{w.first}</th>
            <th>{w.last}</th>
            <th>{w.who}</th>
          </tr>
        </thead>
        <tbody>
          {level.before.map((r) => {
            const left = after.get(r.code);
            return (
              <tr key={r.code}>
                <td>{r.name}</td>
                <td data-num="">{format.tenth(r.hours)}</td>
                <td data-num="">{left ? <Act>{format.tenth(left.hours)}</Act> : "0"}</td>
                <td data-date="">{format.day(r.first)}</td>
                <td data-date="">{format.day(r.last)}</td>
                <td>{(left ?? r).activities.join(", ")}</td>
              </tr>
            );
          })}
        </tbody>
      </Table>
      {level.after.length > 0 && <Note as="p">{w.staysTitle}</Note>}
    </>
  );
}

function Moved({ level }: { level: Level }) {
  const { seek } = usePlace();
  return (
    <>
      <PartTitle>{w.movedTitle(level.moved.length)}</PartTitle>
      <Table>
        <thead>
          <tr>
            <th>{w.activity}</th>
            <th>{w.start}</th>
            <th>{w.finish}</th>
            <th data-num="">{w.by}</th>
            <th>{w.waits}</th>
          </tr>
        </thead>
        <tbody>
          {level.moved.map((m) => (
            <tr key={m.code}>
              <td>
                <Button look="link" onClick={() => seek(m.code)}>
                  {m.name}
                </Button>
              </td>
              <td data-date="">
                {format.day(m.was_start)} → {format.day(m.start)}
              </td>
              <td data-date="">
                {format.day(m.was_finish)} → {format.day(m.finish)}
              </td>
              <td data-num="">{Math.abs(m.days) < 0.005 ? "0" : format.drift(m.days)}</td>
              <td>{m.waits_for.length ? m.waits_for.join(", ") : <Soft>{m.by_links ? w.links : w.place}</Soft>}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}

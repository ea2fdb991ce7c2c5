import { Box } from "@chakra-ui/react";
import { Bones, Entry, keys, Notice, Pick, usePlace } from "../../shared";
import { MarginTitle } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import { optionsOf, typedValue } from "./Register";
import { useAbout } from "./useAbout";
import { usePlan } from "./usePlan";

const w = words.project;

/** A row of a register, whole: each of its values with room to read and to write it. */
export function EntryNote({ topic: { list, id } }: { topic: { list: string; id: string } }) {
  const { project, page, person } = usePlace();
  const plan = usePlan(project, "entry", keys.project(project).about);
  const about = useAbout(project);
  if (about.isPending) return <Bones />;
  if (!about.data) return <Notice bad>{about.error?.message}</Notice>;
  const register = about.data.registers.find((r) => r.key === list);
  const row = register?.rows.find((r) => r.id === id);
  if (!register || !row) return <Box color="soft">{words.margin.gone}</Box>;
  const open = person.role !== "reader" && page.state === "wet";
  const given = (field: string, fixed = false) => ({
    value: typedValue(row[field]),
    disabled: !open || fixed,
    write: (text: string) => plan.fill([{ do: "set", row: id, cells: { [field]: text } }], [{ row: id, field, text }]),
    trouble: plan.troubles[`${id}:${field}`]?.message,
  });
  return (
    <Box>
      <MarginTitle>{typedValue(row.name)}</MarginTitle>
      <Box color="soft" mb="8">
        {typedValue(row.code)} · {w.register[list] ?? list}
      </Box>
      <Entry label={w.name} stacked long {...given("name")} />
      {register.columns.map((c) => {
        const options = optionsOf(c);
        const common = { label: w.column(c.key), ...given(c.key, c.fixed) };
        return options ? (
          <Pick key={c.key} {...common} options={[["", "–"], ...options]} />
        ) : (
          <Entry key={c.key} {...common} stacked={c.kind === "long"} long={c.kind === "long"} />
        );
      })}
    </Box>
  );
}

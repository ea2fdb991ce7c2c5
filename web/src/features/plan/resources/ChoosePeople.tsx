import { Box } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useId, useState } from "react";
import { client, type Schemas, take } from "../../../api";
import { format, keys, Modal, Notice, usePlace } from "../../../shared";
import { Act, Button, FormLine, Input, Soft, styled } from "../../../shared/ui";
import { words } from "../../../shared/words/resources";
import type { Verb } from "../row";
import type { PlanHandle } from "../usePlan";

const { choose: w, kinds } = words.resources;
type Choice = Schemas["ChoiceOfResource"];
const GRID = {
  display: "grid",
  gridTemplateColumns: "minmax(0, 2fr) minmax(0, 1.4fr) 84px 108px 92px",
  gap: "10",
  py: "4",
  px: "6",
  borderBottomWidth: "1px",
  borderColor: "rule",
} as const;
const Num = styled("span", { base: { textAlign: "right", fontVariantNumeric: "tabular-nums" } });

interface Props {
  /** The activities, and what is said of them. */
  rows: string[];
  name: string;
  plan: Pick<PlanHandle, "change">;
  shut: () => void;
}

/** A person, a machine or a firm for some activities: found by name or skill, with what is free in their time and what is too much. */
export function ChoosePeople({ rows, name, plan, shut }: Props) {
  const { project } = usePlace();
  const list = useId();
  const [text, setText] = useState("");
  const [units, setUnits] = useState("1");
  const [at, setAt] = useState(0);
  /** Whether the arrows were used since something was typed: then Space chooses, and is no part of a name. */
  const [moved, setMoved] = useState(false);
  const [picked, setPicked] = useState<string[]>([]);
  const asked = Number(units.replace(",", ".")) > 0 ? units.replace(",", ".") : "1";
  const found = useQuery({
    queryKey: keys.project(project).choosing(rows, asked),
    queryFn: () =>
      take(
        client.POST("/api/projects/{project}/plan/offered", {
          params: { path: { project } },
          body: { rows, units: asked },
        }),
      ),
    placeholderData: keepPreviousData,
  });
  const typed = text.trim().toLowerCase();
  const fits = (r: Choice) =>
    [r.name, r.code, r.supplier, ...r.skills].some((word) => word.toLowerCase().includes(typed));
  const all = found.data?.resources ?? [];
  // Who is free first, then in the order of the project.
  const seen = all.filter(fits).sort((a, b) => Number(a.over_hours > 0) - Number(b.over_hours > 0));
  const here = seen[Math.min(at, seen.length - 1)];
  const pick = (id: string) =>
    setPicked((now) => (now.includes(id) ? now.filter((other) => other !== id) : [...now, id]));
  const assign = (resources: string[]) =>
    plan.change(
      resources.map(
        (resource): Verb => ({ do: "assign", resource, rows, ...(asked !== "1" && { cells: { units: asked } }) }),
      ),
    );
  const go = () => {
    const chosen = picked.length ? picked : here ? [here.id] : [];
    if (!chosen.length) return;
    assign(chosen);
    shut();
  };
  const keysOf = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) setAt(Math.max(0, Math.min(at + step, seen.length - 1)));
    else if (event.key === "Enter") go();
    else if (event.key === " " && here && (moved || event.ctrlKey)) pick(here.id);
    else return;
    if (step) setMoved(true);
    event.preventDefault();
  };
  const does = (
    <Button look="seal" disabled={!here} onClick={go}>
      {w.go(picked.length)}
    </Button>
  );
  return (
    <Modal title={`${w.title}: ${name}`} does={does} shut={shut} width="760px">
      <FormLine>
        <span>{w.find}</span>
        <Input
          role="combobox"
          aria-expanded="true"
          aria-label={w.find}
          aria-controls={list}
          aria-activedescendant={here ? `${list}${here.id}` : undefined}
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            setAt(0);
            setMoved(false);
          }}
          onKeyDown={keysOf}
        />
      </FormLine>
      <FormLine>
        <span>{w.units}</span>
        <Input aria-label={w.units} inputMode="decimal" value={units} onChange={(e) => setUnits(e.target.value)} />
      </FormLine>
      <Soft as="p">{w.help}</Soft>
      {found.isError && <Notice bad>{found.error.message}</Notice>}
      <Box {...GRID} color="soft" fontSize="small" aria-hidden="true">
        <span>{w.name}</span>
        <span>{w.skills}</span>
        <Num>{w.asks}</Num>
        <Num>{w.free}</Num>
        <Num>{w.over}</Num>
      </Box>
      <Box id={list} role="listbox" aria-multiselectable="true" aria-label={w.title}>
        {seen.map((r) => (
          <Box
            {...GRID}
            key={r.id}
            id={`${list}${r.id}`}
            role="option"
            tabIndex={-1}
            data-at={r === here || undefined}
            bg={r === here ? "wetGround" : undefined}
            cursor="pointer"
            aria-selected={picked.includes(r.id)}
            aria-label={[
              r.name,
              ...r.skills,
              r.over_hours > 0 ? `${w.over} ${format.hours(r.over_hours)}` : w.fits,
            ].join(", ")}
            onClick={() => pick(r.id)}
            onDoubleClick={() => {
              assign([r.id]);
              shut();
            }}
          >
            <span>
              {picked.includes(r.id) && "✓ "}
              {r.name} <Soft>{[r.supplier, r.on && w.on(r.on, rows.length)].filter(Boolean).join(", ")}</Soft>
            </span>
            <span>{r.skills.join("; ") || <Soft>{kinds.find(([k]) => k === r.kind)?.[1]}</Soft>}</span>
            <Num>{r.kind === "material" ? "" : format.hours(r.booked_hours)}</Num>
            <Num>{r.kind === "material" ? "" : format.hours(r.free_hours)}</Num>
            <Num>{r.over_hours > 0 ? <Act>{format.hours(r.over_hours)}</Act> : ""}</Num>
          </Box>
        ))}
      </Box>
      {found.data && seen.length === 0 && <Soft as="p">{w.none}</Soft>}
    </Modal>
  );
}

import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Modal, Notice, namesOf, projectsOf } from "../../shared";
import { Button, ChoiceLine, FormLine, Input, RowOf, Select, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import type { Verb } from "./row";
import type { PlanHandle } from "./usePlan";

const w = words.plan.copy;

interface Props {
  project: string;
  plan: PlanHandle;
  /** The elements of this plan that they can go under. */
  elements: { id: string; code: string; name: string }[];
  shut: () => void;
}

/** Activities of another project, copied with the links between them, their people and their costs. */
export function CopyFrom({ project, plan, elements, shut }: Props) {
  const [from, setFrom] = useState("");
  const [under, setUnder] = useState("");
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState<Set<string>>(new Set());
  const [wrong, setWrong] = useState("");
  const projects = useQuery(projectsOf);
  const rows = useQuery({ ...namesOf(from), enabled: from !== "" });
  const typed = text.trim().toLowerCase();
  const all = (rows.data?.rows ?? []).filter((r) => r.kind !== "wbs");
  const seen = all.filter((r) => `${r.code} ${r.name}`.toLowerCase().includes(typed));
  const change = (codes: string[], on: boolean) =>
    setChosen((now) => {
      const next = new Set(now);
      for (const code of codes) on ? next.add(code) : next.delete(code);
      return next;
    });
  const go = async () => {
    setWrong("");
    const verb: Verb = { do: "copy", from, rows: [...chosen], parent: under || undefined };
    try {
      await plan.preview([verb]); // what is refused is said here, beside what was chosen
    } catch (no) {
      setWrong(no instanceof Error ? no.message : String(no));
      return;
    }
    plan.change([verb]);
    shut();
  };
  const does = (
    <Button look="seal" disabled={chosen.size === 0} onClick={go}>
      {w.go(chosen.size)}
    </Button>
  );
  return (
    <Modal title={w.title} does={does} shut={shut} width="640px">
      <Soft as="p">{w.help}</Soft>
      <FormLine>
        <span>{w.from}</span>
        <Select
          aria-label={w.from}
          value={from}
          onChange={(e) => {
            setFrom(e.target.value);
            setChosen(new Set());
          }}
        >
          <option value="">{w.choose}</option>
          {(projects.data?.projects ?? [])
            .filter((p) => p.code !== project)
            .map((p) => (
              <option key={p.code} value={p.code}>
                {p.code} {p.name}
              </option>
            ))}
        </Select>
      </FormLine>
      <FormLine>
        <span>{w.under}</span>
        <Select aria-label={w.under} value={under} onChange={(e) => setUnder(e.target.value)}>
          <option value="">{w.top}</option>
          {elements.map((e) => (
            <option key={e.id} value={e.id}>
              {e.code} {e.name}
            </option>
          ))}
        </Select>
      </FormLine>
      {rows.isError && <Notice bad>{rows.error.message}</Notice>}
      {all.length > 0 && (
        <>
          <RowOf>
            <Input aria-label={w.find} placeholder={w.find} value={text} onChange={(e) => setText(e.target.value)} />
            <Button
              onClick={() =>
                change(
                  seen.map((r) => r.code),
                  true,
                )
              }
            >
              {w.all(seen.length)}
            </Button>
            <Button disabled={chosen.size === 0} onClick={() => setChosen(new Set())}>
              {w.none}
            </Button>
          </RowOf>
          <Box maxH="38vh" overflow="auto" borderWidth="1px" borderColor="rule" px="8" mt="6">
            {seen.map((r) => (
              <ChoiceLine key={r.id}>
                <Input
                  type="checkbox"
                  look="bare"
                  checked={chosen.has(r.code)}
                  onChange={(e) => change([r.code], e.target.checked)}
                />
                {r.code} {r.name}
              </ChoiceLine>
            ))}
          </Box>
        </>
      )}
      {wrong && (
        <Why role="alert" as="p">
          {wrong}
        </Why>
      )}
    </Modal>
  );
}

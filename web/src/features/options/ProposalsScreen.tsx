import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { format, namesOf, usePlace, useWhenever } from "../../shared";
import {
  Act,
  Bar,
  Button,
  DataTable,
  Input,
  Note,
  RoomHead,
  ScrollBox,
  Select,
  Soft,
  Space,
  styled,
  Told,
  Why,
} from "../../shared/ui";
import { words } from "../../shared/words/options";
import { OptionTabs } from "./OptionTabs";
import { useOptionWrites } from "./useOptionWrites";
import { type Proposal, useProposals } from "./useProposals";

const w = words.proposals;
const Meter = styled("progress", {
  base: {
    width: "160px",
    height: "10px",
    appearance: "none",
    borderWidth: "1px",
    borderColor: "control",
    "&::-webkit-progress-bar": { bg: "sheet" },
    "&::-webkit-progress-value": { bg: "band" },
    "&::-moz-progress-bar": { bg: "band" },
  },
});

/** Proposals: what single steps on the driving path would gain, found one after the other; turning some into an option. */
export function ProposalsScreen() {
  const { project, page, person } = usePlace();
  const { found, tried, of, problem, busy, look, stop } = useProposals(project);
  const [scope, setScope] = useState("");
  const [chosen, setChosen] = useState<string[]>([]);
  const elements = useElements(project);
  const open = person.role !== "reader" && page.state === "wet";
  const inside = scope ? (elements.find((e) => e.code === scope)?.inside ?? []) : undefined;
  useWhenever([scope, look], () => {
    if (scope && !inside) return;
    setChosen([]);
    void look(inside);
  });
  return (
    <>
      <RoomHead>
        <h1>{words.options.title}</h1>
        <Told>{w.intro}</Told>
      </RoomHead>
      <OptionTabs />
      <Bar kind="view">
        <label>
          {w.scope}
          <Select value={scope} onChange={(e) => setScope(e.target.value)} maxW="260px">
            <option value="">{w.whole}</option>
            {elements.map((e) => (
              <option key={e.code} value={e.code}>
                {e.code} {e.name}
              </option>
            ))}
          </Select>
        </label>
        {busy ? <Button onClick={stop}>{w.stop}</Button> : <Button onClick={() => void look(inside)}>{w.look}</Button>}
        <Meter max={of ?? 1} value={of === null ? undefined : tried} aria-label={w.progress(tried, of ?? 0)} />
        <Soft role="status">
          {of === null
            ? ""
            : busy
              ? w.progress(tried, of)
              : tried < of
                ? w.stopped(tried, of)
                : of === 0
                  ? w.nothing
                  : w.all(of)}
        </Soft>
        {problem && <Act role="alert">{problem}</Act>}
      </Bar>
      <ScrollBox>
        {found.length > 0 && <Found found={found} chosen={chosen} setChosen={setChosen} open={open} />}
        {!busy && of !== null && of > 0 && tried >= of && found.length === 0 && <Soft as="p">{w.none}</Soft>}
      </ScrollBox>
      {open && chosen.length > 0 && <Make key={chosen.join()} found={found} chosen={chosen} />}
    </>
  );
}

interface FoundProps {
  found: Proposal[];
  chosen: string[];
  setChosen: (next: string[]) => void;
  open: boolean;
}

function Found({ found, chosen, setChosen, open }: FoundProps) {
  const { frame } = usePlace();
  return (
    <DataTable
      rows={found}
      keyOf={(p) => p.code}
      columns={[
        {
          title: w.columns.what,
          cell: (p) => (
            <chakra.div display="flex" gap="8" alignItems="baseline">
              {open && (
                <Input
                  type="checkbox"
                  look="bare"
                  flex="none"
                  boxSize="16px"
                  aria-label={w.choose(`${w.kinds[p.kind] ?? p.kind}: ${p.changes[0]?.about ?? ""}`)}
                  checked={chosen.includes(p.code)}
                  onChange={(e) =>
                    setChosen(e.target.checked ? [...chosen, p.code] : chosen.filter((c) => c !== p.code))
                  }
                />
              )}
              <span>
                <b>{w.kinds[p.kind]}</b> {p.kind === "level" && w.mode(p.code)} {effectOf(p)}
                {p.kind === "shorten" && <Note> · {w.scopeMustGive}</Note>}
              </span>
            </chakra.div>
          ),
        },
        {
          title: w.columns.gained,
          kind: "num",
          cell: (p) =>
            p.gained_days < 0 ? (
              <Act>{format.tenth(p.gained_days)} d</Act>
            ) : (
              words.options.days(format.tenth(p.gained_days))
            ),
        },
        {
          title: w.columns.cost(frame.currency),
          kind: "num",
          cell: (p) =>
            Number(p.cost) === 0 ? (
              "0"
            ) : Number(p.cost) > 0 ? (
              <Act>{format.signed(p.cost)}</Act>
            ) : (
              format.signed(p.cost)
            ),
        },
        { title: w.columns.finish, kind: "date", cell: (p) => format.day(p.finish) },
        {
          title: w.columns.over,
          kind: "num",
          cell: (p) => (
            <>
              {Math.abs(p.more_over_hours) >= 0.05 && (
                <Note>({format.tenth(p.more_over_hours).replace(/^(?=\d)/, "+")}) </Note>
              )}
              {words.options.hours(format.tenth(p.over_hours))}
            </>
          ),
        },
      ]}
    />
  );
}

/** What a proposal changes, in words; of levelling only how much. */
function effectOf(p: Proposal) {
  if (p.kind === "level") return words.levelling.movedTitle(p.changes.length + p.more);
  return p.changes.map((c) => `${c.about}, ${c.what}`).join("; ") + (p.more ? `; ${w.and(p.more)}` : "");
}

function Make({ found, chosen }: { found: Proposal[]; chosen: string[] }) {
  const { project, page, tell } = usePlace();
  const does = useOptionWrites("proposals");
  const navigate = useNavigate();
  const one = found.find((p) => p.code === chosen[0]);
  const [name, setName] = useState(
    chosen.length === 1 && one
      ? `${w.kinds[one.kind]}: ${one.changes[0]?.about ?? ""}`.slice(0, 120)
      : w.chosen(chosen.length),
  );
  return (
    <Bar
      kind="foot"
      as="form"
      onSubmit={async (e) => {
        e.preventDefault();
        const made = await does.make(name, { proposals: chosen });
        if (!made) return;
        tell({ about: "option", id: String(made.id), code: "" });
        navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/options`);
      }}
    >
      <Input aria-label={w.name} value={name} onChange={(e) => setName(e.target.value)} width="320px" />
      <Button type="submit" look="seal">
        {w.make(chosen.length)}
      </Button>
      <Space />
      {(does.why("name") ?? does.writes.refused) && <Why role="alert">{does.why("name") ?? does.writes.refused}</Why>}
    </Bar>
  );
}

/** The elements of the plan, each with the codes of the activities below it. */
function useElements(project: string) {
  const plan = useQuery(namesOf(project));
  const rows = plan.data?.rows ?? [];
  const parents = new Map(rows.map((r) => [r.id, r.parent ?? null]));
  const below = (id: string | null | undefined, element: string): boolean =>
    id != null && (id === element || below(parents.get(id), element));
  return rows
    .filter((r) => r.kind === "wbs")
    .map((e) => ({
      code: e.code,
      name: e.name,
      inside: rows.filter((r) => r.kind !== "wbs" && below(r.parent, e.id)).map((r) => r.code),
    }));
}

import { Box } from "@chakra-ui/react";
import { oneOf } from "../../shared";
import { Button, Input, RowOf, Select, Soft } from "../../shared/ui";
import { words } from "../../shared/words/marks";
import {
  asValue,
  type Condition,
  comparisonsOf,
  type Figure,
  likeFigures,
  MARKS,
  type Rule,
  SIDES,
  type Side,
  sideOf,
  sidesOf,
  typed,
} from "./rules";

const w = words.rules;

interface Props {
  rule: Rule;
  figures: Figure[];
  change: (rule: Rule) => void;
}

/** A rule built from parts: mark, conditions, reason. */
export function RuleEditor({ rule, figures, change }: Props) {
  const set = (i: number, c: Condition) =>
    change({ ...rule, conditions: rule.conditions.map((x, n) => (n === i ? c : x)) });
  const first = figures.find((f) => f.key === "finish_difference") ?? figures[0];
  return (
    <Box pt="4" pr="0" pb="10" pl="24">
      <RowOf>
        <Select aria-label={w.mark} value={rule.mark} onChange={(e) => change({ ...rule, mark: e.target.value })}>
          {MARKS.map((m) => (
            <option key={m} value={m}>
              {words.marks[m]}
            </option>
          ))}
        </Select>
        <Soft>{w.match.toLowerCase()}</Soft>
        <Select aria-label={w.match} value={rule.match} onChange={(e) => change({ ...rule, match: e.target.value })}>
          {Object.entries(w.matches).map(([key, word]) => (
            <option key={key} value={key}>
              {word}
            </option>
          ))}
        </Select>
      </RowOf>
      {rule.conditions.map((c, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: conditions have no name of their own
        <RowOf key={i} pt="6">
          <ConditionParts condition={c} figures={figures} set={(next) => set(i, next)} />
          <Button
            look="quiet"
            aria-label={w.removeCondition(i + 1)}
            onClick={() => change({ ...rule, conditions: rule.conditions.filter((_, n) => n !== i) })}
          >
            ×
          </Button>
        </RowOf>
      ))}
      <RowOf pt="6">
        <Button
          onClick={() =>
            change({
              ...rule,
              conditions: [...rule.conditions, { figure: first?.key ?? "", is: ">=", value: "5d" }],
            })
          }
        >
          {w.addCondition}
        </Button>
        <label>
          <Soft mr="6">{w.reason}</Soft>
          <Input
            width="320px"
            value={rule.reason}
            placeholder={w.reasonHint}
            onChange={(e) => change({ ...rule, reason: e.target.value })}
          />
        </label>
      </RowOf>
    </Box>
  );
}

interface PartsProps {
  condition: Condition;
  figures: Figure[];
  set: (c: Condition) => void;
}

/** Figure, comparison, and what it is compared with. */
function ConditionParts({ condition: c, figures, set }: PartsProps) {
  const kind = figures.find((f) => f.key === c.figure)?.kind ?? "";
  const sides = sidesOf(kind, c.is);
  const side = sides.includes(sideOf(c)) ? sideOf(c) : sides[0];
  const like = likeFigures(figures, kind).filter((f) => f.key !== c.figure);
  const to = (figure: string, is: string, next: Side | undefined): Condition => {
    const of = figures.find((f) => f.key === figure)?.kind ?? "";
    const comparison = comparisonsOf(of).includes(is) ? is : "=";
    const known = sidesOf(of, comparison);
    const chosen = next && known.includes(next) ? next : known[0];
    if (chosen === undefined) return { figure, is: comparison };
    if (chosen === "working_days") return { figure, is: comparison, working_days: c.working_days ?? 10 };
    if (chosen === "than") {
      const others = likeFigures(figures, of).filter((f) => f.key !== figure);
      return { figure, is: comparison, than: others.some((f) => f.key === c.than) ? c.than : others[0]?.key };
    }
    const same = of === kind && c.value !== undefined;
    return {
      figure,
      is: comparison,
      value: asValue(same ? typed(c.value) : of === "flag" ? w.yes : (w.hints[of] ?? ""), of, comparison),
    };
  };
  return (
    <>
      <Select aria-label={w.figure} maxW="210px" value={c.figure} onChange={(e) => set(to(e.target.value, c.is, side))}>
        {figures.map((f) => (
          <option key={f.key} value={f.key}>
            {f.word}
          </option>
        ))}
      </Select>
      <Select aria-label={w.comparing} value={c.is} onChange={(e) => set(to(c.figure, e.target.value, side))}>
        {comparisonsOf(kind).map((key) => (
          <option key={key} value={key}>
            {w.comparison(key, kind)}
          </option>
        ))}
      </Select>
      {sides.length > 1 && (
        <Select
          aria-label={w.side}
          maxW="150px"
          value={side}
          onChange={(e) => set(to(c.figure, c.is, oneOf(SIDES, e.target.value)))}
        >
          {sides.map((s) => (
            <option key={s} value={s}>
              {w.sides[s]}
            </option>
          ))}
        </Select>
      )}
      {side === "than" && (
        <Select
          aria-label={w.another}
          maxW="210px"
          value={c.than}
          onChange={(e) => set({ figure: c.figure, is: c.is, than: e.target.value })}
        >
          {like.map((f) => (
            <option key={f.key} value={f.key}>
              {f.word}
            </option>
          ))}
        </Select>
      )}
      {side === "working_days" && (
        <Input
          aria-label={w.workingDays}
          width="70px"
          type="number"
          value={String(c.working_days ?? 0)}
          onChange={(e) => set({ figure: c.figure, is: c.is, working_days: Math.trunc(Number(e.target.value)) })}
        />
      )}
      {side === "value" && <Value condition={c} kind={kind} set={set} />}
    </>
  );
}

/** The value, typed as the figure's kind has it. */
function Value({ condition: c, kind, set }: { condition: Condition; kind: string; set: (c: Condition) => void }) {
  if (kind === "flag" && c.is !== "one_of")
    return (
      <Select
        aria-label={w.value}
        value={typed(c.value)}
        onChange={(e) => set({ figure: c.figure, is: c.is, value: e.target.value === w.yes })}
      >
        {[w.yes, w.no].map((x) => (
          <option key={x}>{x}</option>
        ))}
      </Select>
    );
  return (
    <Input
      key={`${c.figure}.${c.is}`}
      aria-label={w.value}
      width="130px"
      defaultValue={typed(c.value)}
      placeholder={c.is === "one_of" ? w.listHint : w.hints[kind]}
      onChange={(e) => set({ figure: c.figure, is: c.is, value: asValue(e.target.value, kind, c.is) })}
    />
  );
}

import type { ReactNode } from "react";
import type { Schemas } from "../../api";
import { Popup } from "../../shared";
import { ChoiceLine, Input, RowOf, Select, Space, TickBox, Told } from "../../shared/ui";
import { words } from "../../shared/words/value";
import { BUCKETS } from "./buckets";

const w = words.value;

interface View {
  wbs: string;
  by: string;
  eacs: string;
  bars: string;
  bases: string;
}

interface Props {
  curve: Schemas["CurveOut"];
  view: View;
  look: (next: Partial<View>) => void;
  elements: Schemas["MeasureRow"][];
  children: ReactNode;
}

/** What the curve is of, in which buckets, with which forecasts and baselines, and whether what each bucket adds is drawn. */
export function CurveControls({ curve, view, look, elements, children }: Props) {
  const estimates = view.eacs ? view.eacs.split(",") : [];
  const drawn = Object.keys(curve.points[0]?.others ?? {});
  const toggled = (list: string[], key: string) =>
    list.includes(key) ? list.filter((x) => x !== key) : [...list, key];
  return (
    <RowOf mt="0" gap="10">
      <label>
        <Told>{w.curveOf} </Told>
        <Select value={view.wbs} maxW="200px" onChange={(e) => look({ wbs: e.target.value })}>
          <option value="">{w.project}</option>
          {elements.map((e) => (
            <option key={e.code} value={e.code}>
              {e.code} {e.name}
            </option>
          ))}
        </Select>
      </label>
      <label>
        <Told>{w.bucket} </Told>
        <Select value={view.by} onChange={(e) => look({ by: e.target.value })}>
          {BUCKETS.map((b) => (
            <option key={b} value={b}>
              {words.choices[b]}
            </option>
          ))}
        </Select>
      </label>
      <Choices
        word={w.estimate1}
        options={Object.keys(curve.eac).map((key) => [key, words.chart.eacs[key] ?? key])}
        chosen={estimates}
        toggle={(key) => look({ eacs: toggled(estimates, key).join(",") })}
      />
      {curve.baselines.length > 0 && (
        <Choices
          word={w.baselines}
          options={curve.baselines.map((code) => [code, `PV ${code}`])}
          chosen={drawn}
          toggle={(key) => look({ bases: toggled(drawn, key).join(",") })}
        />
      )}
      <TickBox>
        <Input
          look="bare"
          type="checkbox"
          checked={view.bars === "on"}
          onChange={(e) => look({ bars: e.target.checked ? "on" : "" })}
        />
        {w.bars}
      </TickBox>
      <Space />
      {children}
    </RowOf>
  );
}

interface ChoicesProps {
  word: string;
  options: string[][];
  chosen: string[];
  toggle: (key: string) => void;
}

/** Several of a few. */
function Choices({ word, options, chosen, toggle }: ChoicesProps) {
  return (
    <Popup
      word={
        <>
          {word}
          {chosen.length > 0 && ` ${chosen.length}`}
        </>
      }
      name={word}
      placement="top-start"
    >
      {options.map(([key = "", name]) => (
        <ChoiceLine key={key}>
          <Input look="bare" type="checkbox" checked={chosen.includes(key)} onChange={() => toggle(key)} />
          {name}
        </ChoiceLine>
      ))}
    </Popup>
  );
}

import type { ReactNode } from "react";
import type { Schemas } from "../../api";
import { Popup } from "../../shared";
import { ChoiceLine, Input, OnOff, RowOf, Select, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/value";
import { BUCKETS } from "./buckets";

const w = words.value;

/** The value of an own field as people say it. */
export const valueName = (value: string) => (value === "True" ? words.format.yes : value);

/** What a curve is of: the project, an element, or what has a value of an own field. */
interface Scope {
  wbs: string;
  field: string;
  value: string;
}
const PROJECT: Scope = { wbs: "", field: "", value: "" };
const scopeOf = ({ wbs, field, value }: Scope) => (wbs || field ? JSON.stringify([wbs, field, value]) : "");

interface View extends Scope {
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
  fields: Schemas["FieldValuesOut"][];
  children: ReactNode;
}

/** What the curve is of, in which buckets, with which forecasts and baselines, and whether what each bucket adds is drawn. */
export function CurveControls({ curve, view, look, elements, fields, children }: Props) {
  const scopes = new Map(
    [
      ...elements.map((e) => ({ ...PROJECT, wbs: e.code })),
      ...fields.flatMap((f) => f.values.map((value) => ({ wbs: "", field: f.code, value }))),
    ].map((scope) => [scopeOf(scope), scope]),
  );
  const estimates = view.eacs ? view.eacs.split(",") : [];
  const drawn = Object.keys(curve.points[0]?.others ?? {});
  const toggled = (list: string[], key: string) =>
    list.includes(key) ? list.filter((x) => x !== key) : [...list, key];
  return (
    <RowOf mt="0" gap="10">
      <label>
        <Told>{w.curveOf} </Told>
        <Select value={scopeOf(view)} maxW="200px" onChange={(e) => look(scopes.get(e.target.value) ?? PROJECT)}>
          <option value="">{w.project}</option>
          <optgroup label={w.elements}>
            {elements.map((e) => (
              <option key={e.code} value={scopeOf({ ...PROJECT, wbs: e.code })}>
                {e.code} {e.name}
              </option>
            ))}
          </optgroup>
          {fields.map((f) => (
            <optgroup key={f.code} label={f.name}>
              {f.values.map((value) => (
                <option key={value} value={scopeOf({ wbs: "", field: f.code, value })}>
                  {valueName(value)}
                </option>
              ))}
            </optgroup>
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
      <OnOff on={view.bars === "on"} set={(on) => look({ bars: on ? "on" : "" })}>
        {w.bars}
      </OnOff>
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

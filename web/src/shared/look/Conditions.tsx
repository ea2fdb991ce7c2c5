import { type ReactNode, useId } from "react";
import { Popup } from "../Popup";
import { Act, Button, Input, PickLine, Select } from "../ui";
import { words } from "../words";
import type { Condition } from "./conditions";

const w = words.look;

interface Props {
  where: Condition[];
  put: (next: Condition[]) => void;
  /** The columns that can be asked of. */
  offered: { key: string; title: string }[];
  /** The kind of value that a condition asks for and was not given. */
  wrong: (condition: Condition) => string | null;
  /** The column that a new condition asks of. */
  first: string;
  /** What rows hold in a column, to choose from. */
  values?: (key: string) => string[];
  children?: ReactNode;
}

/** Conditions on any columns; a row is shown where all of them hold. */
export function Conditions({ where, put, offered, wrong, first, values, children }: Props) {
  const list = useId();
  const change = (i: number, part: Partial<Condition>) => put(where.map((c, j) => (j === i ? { ...c, ...part } : c)));
  const more = () => put([...where, { key: first, text: "" }]);
  const stated = where.filter((c) => c.text.trim()).length;
  return (
    <Popup word={w.where(stated)} name={w.where(0)} opens={() => !where.length && more()}>
      {where.map((c, i) => {
        const kind = wrong(c);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: conditions have no name but their place
          <div key={i}>
            <PickLine>
              <Select aria-label={w.column} value={c.key} onChange={(e) => change(i, { key: e.target.value })}>
                {offered.map((o) => (
                  <option key={o.key} value={o.key}>
                    {o.title}
                  </option>
                ))}
              </Select>
              <Input
                aria-label={w.condition}
                aria-invalid={kind !== null || undefined}
                placeholder={w.conditionHint}
                list={values && `${list}-${i}`}
                value={c.text}
                onChange={(e) => change(i, { text: e.target.value })}
              />
              <Button look="quiet" aria-label={w.dropCondition} onClick={() => put(where.filter((_, j) => j !== i))}>
                ×
              </Button>
            </PickLine>
            {values && (
              <datalist id={`${list}-${i}`}>
                {values(c.key).map((v) => (
                  <option key={v} value={v} />
                ))}
              </datalist>
            )}
            {kind && (
              <Act as="div" role="alert">
                {w.unread[kind] ?? w.unread.number}
              </Act>
            )}
          </div>
        );
      })}
      <Button look="link" onClick={more}>
        {w.addCondition}
      </Button>
      {children}
    </Popup>
  );
}

import { useState } from "react";
import type { Schemas } from "../../api";
import { groupBy } from "../groups";
import { Popup } from "../Popup";
import { Button, Input, Note, PartTitle, PickLine } from "../ui";
import { words } from "../words";

const w = words.look;
type Figure = Schemas["FigureOut"];

interface Props {
  /** What the button says. */
  word: string;
  offered: Figure[];
  chosen: string[];
  set: (keys: string[]) => void;
  /** What is chosen to begin with. */
  usual: string[];
}

/** Figures of the catalogue to choose from, by group, each with its unit and what it means; what is chosen stands first. */
export function FigureMenu({ word, offered, chosen, set, usual }: Props) {
  const [find, setFind] = useState("");
  const typed = find.trim().toLowerCase();
  const shown = offered.filter((f) => `${f.head} ${f.word} ${f.formula}`.toLowerCase().includes(typed));
  const groups = groupBy(shown, (f) => f.group);
  const on = new Set(chosen);
  const toggle = (key: string) => set(on.has(key) ? chosen.filter((k) => k !== key) : [...chosen, key]);
  const shift = (i: number, by: number) => {
    const next = [...chosen];
    const [one] = next.splice(i, 1);
    if (one) next.splice(Math.max(0, i + by), 0, one);
    set(next);
  };
  const wordOf = (key: string) => offered.find((f) => f.key === key)?.word ?? key;
  return (
    <Popup word={word} name={word} width="400px" maxH="70vh">
      {chosen.map((key, i) => (
        <PickLine key={key}>
          <label>
            <Input look="bare" type="checkbox" checked onChange={() => toggle(key)} />
            {wordOf(key)}
          </label>
          <Button look="quiet" aria-label={w.earlier(wordOf(key))} disabled={i === 0} onClick={() => shift(i, -1)}>
            ↑
          </Button>
          <Button
            look="quiet"
            aria-label={w.later(wordOf(key))}
            disabled={i === chosen.length - 1}
            onClick={() => shift(i, 1)}
          >
            ↓
          </Button>
        </PickLine>
      ))}
      <Button look="link" onClick={() => set(usual)}>
        {w.usual}
      </Button>
      <hr />
      <Input
        type="search"
        aria-label={w.findFigure}
        placeholder={w.findFigure}
        width="100%"
        value={find}
        onChange={(e) => setFind(e.target.value)}
      />
      {[...groups].map(([group, figures]) => (
        <section key={group} aria-label={w.groups[group]}>
          <PartTitle as="h3">{w.groups[group]}</PartTitle>
          {figures
            .filter((f) => !on.has(f.key))
            .map((f) => (
              <PickLine key={f.key}>
                <label>
                  <Input look="bare" type="checkbox" checked={false} onChange={() => toggle(f.key)} />
                  <span>
                    {f.word} <Note>{w.units[f.kind]}</Note>
                    <Note as="div">{f.formula}</Note>
                  </span>
                </label>
              </PickLine>
            ))}
        </section>
      ))}
    </Popup>
  );
}

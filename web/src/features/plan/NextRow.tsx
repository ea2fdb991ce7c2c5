import { useState } from "react";
import { Button, Input, Select } from "../../shared/ui";

interface Cell {
  key: string;
  label: string;
  hint?: string;
  /** What can be chosen, where it is not typed; the first is chosen to begin with. */
  options?: [value: string, word: string][];
}

/** What was typed and not added yet, by the table it stands under: it is there again when one comes back. */
const kept = new Map<string, Record<string, string>>();

/** The row at the foot of a table in which the next one is typed. */
export function NextRow({
  cells,
  word,
  add,
  of = "",
}: {
  cells: Cell[];
  word: string;
  /** Adds what was typed; false where it is not enough yet, so that it stays. */
  add: (typed: Record<string, string>) => boolean;
  /** Under which table of many alike. */
  of?: string;
}) {
  const place = `${of}:${word}:${cells.map((c) => c.key).join()}`;
  const [typed, set] = useState<Record<string, string>>(() => kept.get(place) ?? {});
  const setTyped = (next: Record<string, string>) => {
    kept.set(place, next);
    set(next);
  };
  const done = () => {
    if (add(all)) setTyped(Object.fromEntries(cells.filter((c) => c.options).map((c) => [c.key, all[c.key] ?? ""])));
  };
  const all = Object.fromEntries(cells.map((c) => [c.key, typed[c.key] ?? c.options?.[0]?.[0] ?? ""]));
  return (
    <tfoot>
      <tr>
        {cells.map(({ key, label, hint, options }) => {
          const common = {
            className: "field",
            "aria-label": label,
            value: all[key],
            onChange: (e: { target: { value: string } }) => setTyped({ ...typed, [key]: e.target.value }),
          };
          return (
            <td key={key}>
              {options ? (
                <Select {...common}>
                  {options.map(([value, said]) => (
                    <option key={value} value={value}>
                      {said}
                    </option>
                  ))}
                </Select>
              ) : (
                <Input {...common} placeholder={hint} onKeyDown={(e) => e.key === "Enter" && done()} />
              )}
            </td>
          );
        })}
        <td>
          <Button onClick={done}>{word}</Button>
        </td>
      </tr>
    </tfoot>
  );
}

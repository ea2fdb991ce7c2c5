import { useState } from "react";

interface Cell {
  key: string;
  label: string;
  hint?: string;
  /** What can be chosen, where it is not typed; the first is chosen to begin with. */
  options?: [value: string, word: string][];
}

/** The row at the foot of a table in which the next one is typed. */
export function NextRow({
  cells,
  word,
  add,
}: {
  cells: Cell[];
  word: string;
  /** Adds what was typed; false where it is not enough yet, so that it stays. */
  add: (typed: Record<string, string>) => boolean;
}) {
  const [typed, setTyped] = useState<Record<string, string>>({});
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
                <select {...common}>
                  {options.map(([value, said]) => (
                    <option key={value} value={value}>
                      {said}
                    </option>
                  ))}
                </select>
              ) : (
                <input {...common} placeholder={hint} />
              )}
            </td>
          );
        })}
        <td>
          <button
            type="button"
            className="act-on"
            onClick={() => {
              if (add(all))
                setTyped(Object.fromEntries(cells.filter((c) => c.options).map((c) => [c.key, all[c.key] ?? ""])));
            }}
          >
            {word}
          </button>
        </td>
      </tr>
    </tfoot>
  );
}

import { useMemo } from "react";
import { Select } from "../../shared/ui";
import { words } from "../../shared/words/posting";
import { type Lens, ownValues } from "./lens";
import type { Sheet } from "./usePosting";

const w = words.posting;

/** Which rows are shown: by state, and by person, element or own field. */
export function Filter({ sheet, lens, set }: { sheet: Sheet; lens: Lens; set: (next: Partial<Lens>) => void }) {
  const own = useMemo(() => ownValues(sheet), [sheet]);
  return (
    <>
      <Select aria-label={w.show} value={lens.show} maxW="124px" onChange={(e) => set({ show: e.target.value })}>
        {Object.entries(w.shows).map(([key, word]) => (
          <option key={key} value={key}>
            {word}
          </option>
        ))}
      </Select>
      <Select aria-label={w.filter} value={lens.only} maxW="124px" onChange={(e) => set({ only: e.target.value })}>
        <option value="">{w.noFilter}</option>
        <optgroup label={w.byMark}>
          {Object.entries(words.marks).map(([key, word]) => (
            <option key={key} value={`mark:${key}`}>
              {word}
            </option>
          ))}
        </optgroup>
        <optgroup label={w.byPerson}>
          {(sheet.people ?? []).map(([code, name]) => (
            <option key={code} value={`person:${code}`}>
              {name}
            </option>
          ))}
        </optgroup>
        <optgroup label={w.byWbs}>
          {sheet.wbs.map((e) => (
            <option key={e.code} value={`wbs:${e.code}`}>
              {e.code} {e.name}
            </option>
          ))}
        </optgroup>
        {own.map(([code, name, values]) => (
          <optgroup key={code} label={name}>
            {values.map((v) => (
              <option key={v} value={`own:${code}=${v}`}>
                {words.choices[v] ?? v}
              </option>
            ))}
          </optgroup>
        ))}
      </Select>
    </>
  );
}

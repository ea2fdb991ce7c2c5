import { useState } from "react";
import { usePlace } from "./place";
import { Anchor, RowOf, Select, Told } from "./ui";
import { words } from "./words/lookAhead";

const w = words.lookAhead;

/** The look-ahead: what the next weeks bring, as a sheet for people on site. */
export function LookAhead() {
  const { project, page } = usePlace();
  const [weeks, setWeeks] = useState("3");
  const [by, setBy] = useState("person");
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/look-ahead`;
  return (
    <RowOf mt="0" gap="4" flexWrap="nowrap" role="group" aria-label={w.title}>
      <Told>{w.title}</Told>
      <Select aria-label={w.ahead} value={weeks} onChange={(e) => setWeeks(e.target.value)}>
        {["1", "2", "3", "4", "6", "8", "12"].map((n) => (
          <option key={n} value={n}>
            {w.weeks(Number(n))}
          </option>
        ))}
      </Select>
      <Select aria-label={w.by} value={by} onChange={(e) => setBy(e.target.value)}>
        {Object.entries(w.bys).map(([key, word]) => (
          <option key={key} value={key}>
            {word}
          </option>
        ))}
      </Select>
      {["pdf", "xlsx"].map((form) => (
        <Anchor key={form} look="link" href={`${base}.${form}?weeks=${weeks}&by=${by}`} download>
          {form.toUpperCase()}
        </Anchor>
      ))}
    </RowOf>
  );
}

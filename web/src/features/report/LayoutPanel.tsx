import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { useShortcut } from "../../shared";
import { Button, Input, Note, PartTitle, PickLine, RowOf, Textarea, Why } from "../../shared/ui";
import { words } from "../../shared/words/report";
import type { Report, Writing } from "./useReport";

const w = words.report;

/** The sections of the project's report: which are shown, in which order, and heads of its own. */
export function LayoutPanel({ report, writing, close }: { report: Report; writing: Writing; close: () => void }) {
  useShortcut("escape", close);
  const [sections, setSections] = useState(report.report_layout.sections);
  const [heads, setHeads] = useState(report.report_layout.heads.join("\n"));
  const [levels, setLevels] = useState(String(report.report_layout.levels));
  const move = (at: number, by: number) => {
    const next = [...sections];
    const [taken] = next.splice(at, 1);
    if (taken) next.splice(at + by, 0, taken);
    setSections(next);
  };
  const save = async () => {
    const saved = await writing.lay({
      sections: sections.filter((s) => s.shown).map((s) => s.key),
      heads: heads.split("\n").filter((h) => h.trim()),
      levels: Number(levels),
    });
    if (saved) close();
  };
  const wrong = (field: string) => {
    const found = writing.trouble(field, "layout");
    return found && <Why role="alert">{found.message}</Why>;
  };
  return (
    <Box
      as="section"
      data-opened=""
      aria-label={w.layoutTitle}
      onKeyDown={(e) => e.key === "Escape" && close()}
      width="300px"
      flex="none"
      overflow="auto"
      borderLeftWidth="1px"
      borderColor="rule"
      pt="0"
      px="14"
      pb="18"
    >
      <PartTitle>{w.layoutTitle}</PartTitle>
      {sections.map((s, i) => (
        <PickLine key={s.key}>
          <label>
            <Input
              look="bare"
              type="checkbox"
              aria-label={w.shown(s.title)}
              checked={s.shown}
              onChange={(e) =>
                setSections(sections.map((x) => (x.key === s.key ? { ...x, shown: e.target.checked } : x)))
              }
            />
            {s.title}
          </label>
          <Button look="quiet" aria-label={w.up(s.title)} disabled={i === 0} onClick={() => move(i, -1)}>
            ↑
          </Button>
          <Button
            look="quiet"
            aria-label={w.down(s.title)}
            disabled={i === sections.length - 1}
            onClick={() => move(i, 1)}
          >
            ↓
          </Button>
        </PickLine>
      ))}
      {wrong("sections")}
      <Box as="label" display="block" mt="10">
        {w.heads}
        <Note as="div">{w.headsHelp}</Note>
        <Textarea width="100%" rows={3} value={heads} onChange={(e) => setHeads(e.target.value)} />
      </Box>
      {wrong("heads")}
      <RowOf>
        <label>
          {w.levels}{" "}
          <Input
            type="number"
            min={1}
            max={20}
            width="60px"
            value={levels}
            onChange={(e) => setLevels(e.target.value)}
          />
        </label>
      </RowOf>
      {wrong("levels")}
      <RowOf>
        <Button look="seal" onClick={save}>
          {w.saveLayout}
        </Button>
        <Button onClick={close}>{w.cancel}</Button>
      </RowOf>
    </Box>
  );
}

import { Entry, useShortcut } from "../../shared";
import { Select, Soft, Told } from "../../shared/ui";
import { words } from "../../shared/words/schedule";
import { AT, type LinesView } from "./lines";

const w = words.timeline;
const MOST = ["1", "3", "5", "10", "20", "60"];

interface Props {
  view: LinesView;
  trouble?: string;
  look: (next: Partial<LinesView>) => void;
}

/** Which progress lines are drawn, against what, and how many; L puts them on and off. */
export function LineControls({ view, trouble, look }: Props) {
  const on = view.lines !== "none";
  useShortcut("l", () => look({ lines: on ? "none" : "status" }));
  const typed = view.lines === "dates";
  const interval = ["day", "week", "month"].includes(view.lines);
  return (
    <>
      <label>
        <Told>{w.lines} </Told>
        <Select value={view.lines} onChange={(e) => look({ lines: e.target.value })}>
          {AT.map((a) => (
            <option key={a} value={a}>
              {w.linesAt[a]}
            </option>
          ))}
        </Select>
      </label>
      {view.lines === "strip" && <Soft>{w.stripSays}</Soft>}
      {on && view.lines !== "strip" && (
        <>
          {(typed || interval) && (
            <Entry
              label={typed ? w.dates : w.from}
              value={view.dates}
              placeholder={typed ? w.datesHint : w.fromHint}
              trouble={trouble}
              write={(dates) => look({ dates })}
            />
          )}
          <label>
            <Told>{w.against} </Told>
            <Select value={view.against} onChange={(e) => look({ against: e.target.value })}>
              {Object.entries(w.bars).map(([key, word]) => (
                <option key={key} value={key}>
                  {word}
                </option>
              ))}
            </Select>
          </label>
          {view.lines !== "status" && (
            <label>
              <Told>{w.most} </Told>
              <Select value={view.most} onChange={(e) => look({ most: e.target.value })}>
                {MOST.map((n) => (
                  <option key={n}>{n}</option>
                ))}
              </Select>
            </label>
          )}
          <Soft>{w.linesSay(w.bars[view.against] ?? "")}</Soft>
        </>
      )}
    </>
  );
}

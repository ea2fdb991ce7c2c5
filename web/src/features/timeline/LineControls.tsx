import { Box } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { client, take } from "../../api";
import { Entry, keys, useKept, usePlace, useShortcut } from "../../shared";
import { refresh, useWrites } from "../../shared/book";
import { Button, Select, Soft, Told, Why } from "../../shared/ui";
import { words } from "../../shared/words/timeline";
import { AT, type LinesView } from "./lines";

const w = words.timeline;
const MOST = ["1", "3", "5", "10", "20", "60"];

interface Props {
  view: LinesView;
  trouble?: string;
  look: (next: Partial<LinesView>) => void;
}

/** Which fronts are drawn, against what, and how many; L takes them away and brings them back as they were. */
export function LineControls({ view, trouble, look }: Props) {
  const on = view.lines !== "none";
  const { project, page, mayPost } = usePlace();
  const [last, keepLast] = useKept(`${project}.timeline.lines`, "status");
  useEffect(() => {
    if (on) keepLast(view.lines);
  }, [on, view.lines, keepLast]);
  useShortcut("l", () => look({ lines: on ? "none" : last }));
  const queries = useQueryClient();
  const writes = useWrites({
    project,
    part: "lines",
    read: () => queries.refetchQueries({ queryKey: keys.frame(project) }),
  });
  /** Keeps the typed dates as the project's own, and draws those. */
  const keep = async () => {
    const done = await writes.write((revision) =>
      take(
        client.PUT("/api/projects/{project}/pages/{page}/progress-lines", {
          params: { path: { project, page: page.code } },
          body: { revision, dates: view.dates },
        }),
      ),
    );
    if (!done) return;
    refresh(queries, project);
    look({ lines: "kept" });
  };
  const typed = view.lines === "dates";
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
          {typed && (
            <Box minW="420px">
              <Entry
                label={w.dates}
                value={view.dates}
                placeholder={w.datesHint}
                trouble={trouble}
                write={(dates) => look({ dates })}
              />
            </Box>
          )}
          {typed && mayPost && view.dates && (
            <Button look="link" onClick={() => void keep()}>
              {w.keepDates}
            </Button>
          )}
          {writes.refused && <Why role="alert">{writes.refused}</Why>}
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

import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api";
import { Bones, format, keys, useOpenFigure, usePlace } from "../../shared";
import { Button, MarginHead, MarginTitle, Pair } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import type { Row } from "./row";
import { usePlanSheet } from "./usePlan";

const w = words.plan.element;
const STATES = ["complete", "in_progress", "not_started"] as const;
const FIGURES = ["bac", "pv", "ev", "ac", "sv", "cv", "spi", "cpi"];

/** The margin of a WBS element: its dates, how far its activities are, and its value as of the page. */
export function ElementNote({ topic: { id, code } }: { topic: { id: string; code: string } }) {
  const { project, page, frame } = usePlace();
  const open = useOpenFigure();
  const plan = usePlanSheet(project);
  const value = useQuery({
    queryKey: keys.page(project, page.code).value(),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/value", { params: { path: { project, page: page.code } } }),
      ),
  });
  const row = plan.data?.rows.get(id);
  if (!plan.data) return <Bones />;
  if (!row) return <Box color="soft">{words.margin.gone}</Box>;
  const below = activitiesIn(plan.data.rows, id);
  const figures = value.data?.rows.find((r) => r.kind === "wbs" && r.code === code);
  const heads = new Map((value.data?.columns ?? []).map((c) => [c.key, c]));
  return (
    <Box>
      <MarginTitle>{row.name}</MarginTitle>
      <Box color="soft">
        {row.code} · {w.element}
      </Box>
      <MarginHead>{words.margin.dates}</MarginHead>
      <Pair dotted facts>
        <span>{row.start ? words.margin.span(format.weekDay(row.start), format.weekDay(row.finish)) : w.noDates}</span>
        <span>{row.late == null ? "" : format.late(row.late)}</span>
      </Pair>
      <MarginHead>{w.activities(below.length)}</MarginHead>
      {STATES.map((state) => (
        <Pair key={state} dotted>
          <span>{words.plan.states[state]}</span>
          <span>{below.filter((r) => r.state === state).length}</span>
        </Pair>
      ))}
      {below.some((r) => r.driving) && <div>{w.driving(below.filter((r) => r.driving).length)}</div>}
      {figures && (
        <>
          <MarginHead>{w.value(frame.baseline ?? "–")}</MarginHead>
          {FIGURES.filter((key) => heads.has(key)).map((key) => (
            <Pair key={key} dotted>
              <Button look="link" onClick={() => open(key, "wbs", code)}>
                {heads.get(key)?.head}
              </Button>
              <span data-tip={figures.reasons[key]}>{format.figure(figures.figures[key], heads.get(key)?.kind)}</span>
            </Pair>
          ))}
        </>
      )}
    </Box>
  );
}

/** The activities in an element and in the elements below it. */
function activitiesIn(rows: Map<string, Row>, id: string): Row[] {
  const within = (row: Row): boolean =>
    row.parent === id || (row.parent !== null && within(rows.get(row.parent) ?? { ...row, parent: null }));
  return [...rows.values()].filter((r) => r.kind !== "wbs" && within(r));
}

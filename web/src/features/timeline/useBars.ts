import { useQueryClient } from "@tanstack/react-query";
import { type PointerEvent, useCallback } from "react";
import { client, type Schemas, take } from "../../api";
import { format, keys, usePlace } from "../../shared";
import { refresh, revisionOf, useWrites } from "../../shared/book";
import { type Axis, type Held, useGrip } from "../../shared/time";
import { words } from "../../shared/words/timeline";
import { pauseOf, type Verb } from "../plan";

type Bar = Schemas["Bar"];
export type Part = "start" | "worked" | "finish" | "pause";

export interface Drag extends Held {
  bar: Bar;
  part: Part;
}

/** What letting go would do: post a part of a bar at a date, or put a pause into the plan. */
type Work = { code: string; name: string } & ({ part: "start" | "worked" | "finish"; to: string } | { verbs: Verb[] });

/** What it would come to: in words, the cells that would be typed, and where finishes would lie. */
interface Told {
  says: string;
  cells?: Record<string, string>;
  finishes: Map<string, string>;
}

const NEAR = 3;
const w = words.timeline.hands;

/** What a drag would do; null while it would do nothing. */
export function workOf({ bar, part, from, to }: Drag, axis: Axis): Work | null {
  if (Math.abs(to - from) < NEAR) return null;
  const { code, name } = bar;
  if (part === "pause") return { code, name, verbs: [pauseOf(bar.id ?? "", bar.pauses, axis, from, to)] };
  const stood = part === "start" ? bar.start : part === "worked" ? (bar.done_to ?? bar.start) : bar.finish;
  const x = axis.x(stood) + to - from;
  if (part === "worked") return { code, name, part, to: axis.at(x, 1) };
  const at = axis.perDay < HOURLY ? axis.day(x) : axis.at(x, 60);
  return stood.startsWith(at) ? null : { code, name, part, to: at };
}
/** From how many pixels a day on a bar is dragged by the hour. */
const HOURLY = 120;

/** Bars that are posted by dragging them, on the open page; a pause goes into the plan. What it would do is told before. */
export function useBars(axis: Axis, finish: string | null | undefined) {
  const { project, page, mayPost, setEffect } = usePlace();
  const queries = useQueryClient();
  const path = { project, page: page.code };
  const writes = useWrites({
    project,
    part: `timeline.${page.code}`,
    read: () => queries.refetchQueries({ queryKey: keys.frame(project) }),
  });
  const tried = async ({ code, part, to }: { code: string; part: "start" | "worked" | "finish"; to: string }) =>
    take(
      client.POST("/api/projects/{project}/pages/{page}/posting/bars", {
        params: { path },
        body: { activity: code, part, to },
      }),
    );
  const plan = (verbs: Verb[], revision: number, preview: boolean) =>
    take(
      client.POST("/api/projects/{project}/plan/changes", {
        params: { path: { project } },
        body: { revision, verbs, preview, rest: false },
      }),
    );
  const ask = async (work: Work): Promise<Told> => {
    if ("verbs" in work) {
      const e = await plan(work.verbs, revisionOf(project), true);
      const finishes = new Map(e.moved.map((m) => [m.code, m.after]));
      return {
        says: `${format.sentence(e.label)}. ${w.moves(e.moved_count)} ${ends(e.finish_before, e.finish)}`,
        finishes,
      };
    }
    const { cells, filled, tried: t } = await tried(work);
    const stated = Object.entries(cells).map(([field, text]) => SAYS[field]?.(text) ?? text);
    const says = [w.posts(work.name, stated.join(", ")), ...filled, w.moves(t.moved.length), ends(finish, t.finish)];
    return { says: says.join(" "), cells, finishes: new Map(t.moved.map((m) => [m.code, m.after])) };
  };
  const drop = async (work: Work, answer: Told | null) => {
    const done = await writes.write(async (revision) => {
      if ("verbs" in work) return plan(work.verbs, revision, false);
      const cells = answer?.cells ?? (await tried(work)).cells;
      const effect = await take(
        client.PATCH("/api/projects/{project}/pages/{page}/posting/entries", {
          params: { path },
          body: { revision, entries: [{ activity: work.code, ...cells }] },
        }),
      );
      setEffect(effect);
      return effect;
    });
    if (done) refresh(queries, project);
  };
  const grip = useGrip<Drag, Work, Told>({
    does: (drag) => workOf(drag, axis),
    ask,
    drop: (work, answer) => void drop(work, answer),
  });
  const { take: grab } = grip;
  const down = useCallback(
    (event: PointerEvent<Element>, bar: Bar, part: Part) =>
      grab(event, (at) => ({ ...at, bar, part: event.altKey && bar.state !== "complete" && bar.id ? "pause" : part })),
    [grab],
  );
  return { ...grip, down: mayPost ? down : undefined, refused: writes.refused };
}

export type BarHands = ReturnType<typeof useBars>;

/** What the cells that a drag stands for say, in a few words. */
const SAYS: Record<string, (text: string) => string> = {
  actual_start: (text) => w.started(format.weekDay(text.slice(0, 10))),
  actual_finish: (text) => w.finished(format.weekDay(text.slice(0, 10))),
  carry_to: (text) => w.carried(format.weekDay(text.slice(0, 10))),
  percent: (text) => `${text} %`,
  remaining: (text) => w.remaining(format.span(text)),
};

const ends = (was: string | null | undefined, now: string) =>
  !was || was === now ? w.finishStays(format.fullDay(now)) : w.finishMoves(format.fullDay(was), format.fullDay(now));

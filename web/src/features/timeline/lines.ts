import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, Problem, type Schemas, take } from "../../api";
import { keys, usePlace } from "../../shared";
import type { Axis } from "../../shared/time";

export type Lines = Schemas["LinesOut"];
/** When fronts are drawn: not at all, at the status date, at the pages, at the dates that the project keeps, or at dates of one's own. */
export type At = "none" | "strip" | "status" | "pages" | "kept" | "dates";
export const AT: At[] = ["none", "strip", "status", "pages", "kept", "dates"];

export interface LinesView {
  lines: string;
  against: string;
  dates: string;
  most: string;
}

const at = (value: string): At => AT.find((a) => a === value) ?? "none";

/** The lines that the view asks for. */
export function useLines({ lines, against, dates, most }: LinesView) {
  const { project, page } = usePlace();
  const wanted = at(lines);
  const drawn = wanted !== "none" && wanted !== "strip";
  const query = {
    at: wanted === "none" || wanted === "strip" ? ("status" as const) : wanted,
    against: against === "present" ? ("present" as const) : ("baseline" as const),
    dates,
    most: Number(most) || 10,
  };
  const found = useQuery({
    queryKey: keys.page(project, page.code).lines(query),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/progress-lines", {
          params: { path: { project, page: page.code }, query },
        }),
      ),
    enabled: drawn,
    retry: false,
    placeholderData: keepPreviousData,
  });
  return {
    data: drawn ? found.data : undefined,
    strip: wanted === "strip",
    trouble: drawn && found.error instanceof Problem ? found.error.message : undefined,
  };
}

/** What of the fronts lies in a row. */
export interface Front {
  /** The edge of each front in this row and over to the next, the oldest first. */
  edges: string[];
  /** Between where the work stands and the date of the newest front, where that is not the same. */
  between?: { from: number; to: number; days: number };
}

/**
 * For each row, by its place among those shown, its part of all fronts, so that rows can be drawn one by one: a stroke where
 * the work stands, joined to that of the next row along the border. A row without a point has the front at its date.
 */
export function frontsOf(lines: Lines, codes: (string | null)[], axis: Pick<Axis, "x">, height: number): Front[] {
  const places = lines.lines.map(({ date }, n) => {
    const bare = axis.x(date);
    return codes.map((code) => {
      const point = code === null ? undefined : lines.points?.[code]?.[n];
      return point === undefined ? bare : axis.x(point);
    });
  });
  const newest = lines.lines.at(-1);
  const date = newest ? axis.x(newest.date) : 0;
  return codes.map((code, i) => {
    const days = code === null ? undefined : lines.days?.[code];
    const here = places.at(-1)?.[i] ?? date;
    return {
      edges: places.map((xs) => `M${round(xs[i] ?? 0)} 0V${height}H${round(xs[i + 1] ?? xs[i] ?? 0)}`),
      between: days === undefined ? undefined : { from: round(here), to: round(date), days },
    };
  });
}

const round = (n: number) => Math.round(n * 10) / 10;

/** How strong a line is: the newest most, the others the fainter the older. */
export const strength = (n: number, count: number) => (count < 2 ? 1 : 0.4 + (0.6 * n) / (count - 1));

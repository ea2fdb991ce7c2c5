import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, Problem, type Schemas, take } from "../../api";
import { keys, usePlace } from "../../shared";
import type { Axis } from "../../shared/time";

export type Lines = Schemas["LinesOut"];
/** When lines are drawn: not at all, at the status date, at every page, at typed dates, or at an interval. */
export type At = "none" | "strip" | "status" | "pages" | "kept" | "dates" | "day" | "week" | "month";
export const AT: At[] = ["none", "strip", "status", "pages", "week", "month", "day", "kept", "dates"];

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

/**
 * For each row, by its place among those shown, the pieces of all lines in it: each goes from half way to the row above to
 * half way to the row below, so that rows can be drawn one by one. A row without a point has the line at its date.
 */
export function piecesOf(lines: Lines, codes: (string | null)[], axis: Pick<Axis, "x">, height: number): string[][] {
  const places = lines.lines.map(({ date }, n) => {
    const bare = axis.x(date);
    return codes.map((code) => {
      const point = code === null ? undefined : lines.points?.[code]?.[n];
      return point === undefined ? bare : axis.x(point);
    });
  });
  return codes.map((_, i) =>
    places.map((xs) => {
      const here = xs[i] ?? 0;
      const top = ((xs[i - 1] ?? here) + here) / 2;
      const bottom = ((xs[i + 1] ?? here) + here) / 2;
      return `M${round(top)} 0L${round(here)} ${height / 2}L${round(bottom)} ${height}`;
    }),
  );
}

const round = (n: number) => Math.round(n * 10) / 10;

/** How strong a line is: the newest most, the others the fainter the older. */
export const strength = (n: number, count: number) => (count < 2 ? 1 : 0.4 + (0.6 * n) / (count - 1));

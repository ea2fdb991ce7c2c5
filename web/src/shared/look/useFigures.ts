import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { client, type Schemas, take } from "../../api";
import { usePlace } from "../place";

const NONE: Schemas["FigureOut"][] = [];

/** Every figure that a column can show here, and each by its key. */
export function useOffered() {
  const { project, page } = usePlace();
  const found = useQuery({
    queryKey: [project, page.code, "offered"],
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/value/figures", {
          params: { path: { project, page: page.code } },
        }),
      ),
    staleTime: 60_000,
  });
  const offered = found.data?.figures ?? NONE;
  const byKey = useMemo(() => new Map(offered.map((f) => [f.key, f])), [offered]);
  return { offered, byKey };
}

/** The rows of the page with the figures that are asked for. */
export function useFigures(keys: string[], enabled = true) {
  const { project, page } = usePlace();
  const columns = keys.join(",");
  return useQuery({
    queryKey: [project, page.code, "value", columns],
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/value", {
          params: { path: { project, page: page.code }, query: { columns } },
        }),
      ),
    enabled,
    placeholderData: keepPreviousData,
  });
}

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { client, type Schemas, take } from "../../api";
import { keys } from "../keys";
import { usePlace } from "../place";
import { figureColumns } from "./arrange";

const NONE: Schemas["FigureOut"][] = [];

/** Every figure that a column can show here, and what rows hold of them. */
export function useOffered() {
  const { project, page } = usePlace();
  const found = useQuery({
    queryKey: keys.page(project, page.code).offered,
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/value/figures", {
          params: { path: { project, page: page.code } },
        }),
      ),
    staleTime: 60_000,
  });
  const offered = found.data?.figures ?? NONE;
  const columns = useMemo(() => figureColumns(offered), [offered]);
  return { offered, columns };
}

/** The rows of the page with the figures that are asked for. */
export function useFigures(wanted: string[], enabled = true) {
  const { project, page } = usePlace();
  const columns = wanted.join(",");
  return useQuery({
    queryKey: keys.page(project, page.code).value(columns),
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

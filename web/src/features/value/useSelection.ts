import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { keys, usePlace } from "../../shared";
import type { Bucket } from "./buckets";

type Row = Schemas["MeasureRow"];
/** How long a selection rests before its totals are asked for, in milliseconds: a held key selects many rows a second. */
const REST = 120;

/** The totals and the curve of the rows that are selected, once the selection rests; nothing where none are. */
export function useSelection(rows: Row[], bucket: Bucket, columns: string[], split: boolean) {
  const { project, page } = usePlace();
  const [settled, settle] = useState(rows);
  useEffect(() => {
    const timer = setTimeout(() => settle(rows), rows.length ? REST : 0);
    return () => clearTimeout(timer);
  }, [rows]);
  const whole = settled.some((r) => r.kind === "project");
  const codes = (kind: string) => settled.filter((r) => r.kind === kind).map((r) => r.code);
  const body = { activities: codes("activity"), wbs: codes("wbs"), bucket, columns, split };
  const found = useQuery({
    queryKey: keys.page(project, page.code).selection(body),
    queryFn: () =>
      take(
        client.POST("/api/projects/{project}/pages/{page}/selection", {
          params: { path: { project, page: page.code } },
          body,
        }),
      ),
    enabled: settled.length > 0 && !whole,
    placeholderData: keepPreviousData,
  });
  return settled.length > 0 && !whole ? found.data : undefined;
}

import type { QueryClient } from "@tanstack/react-query";
import { keys, partOf } from "../keys";

/** Has everything of a project read again that a write may have changed, but for the parts that `kept` names. */
export function refresh(
  queries: QueryClient,
  project: string,
  kept: (of: ReturnType<typeof partOf>) => boolean = () => false,
) {
  queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] === project && !kept(partOf(queryKey)) });
  queries.invalidateQueries({ queryKey: keys.frame(project) });
  queries.invalidateQueries({ queryKey: keys.desk.all });
}

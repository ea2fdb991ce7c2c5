import type { QueryClient } from "@tanstack/react-query";

/** Has everything of a project read again that a write may have changed, but for the parts that `kept` names. */
export function refresh(
  queries: QueryClient,
  project: string,
  kept: (key: readonly unknown[]) => boolean = () => false,
) {
  queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] === project && !kept(queryKey) });
  queries.invalidateQueries({ queryKey: ["frame", project] });
  queries.invalidateQueries({ queryKey: ["desk"] });
}

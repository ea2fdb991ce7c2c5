import { type QueryKey, skipToken, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";

/** What is kept as long as one is signed in and is read from nowhere: what was typed, begun, or told. */
export const held = (queryKey: QueryKey) => ({
  queryKey,
  queryFn: skipToken as typeof skipToken,
  enabled: false,
  gcTime: Number.POSITIVE_INFINITY,
});

/** Something that is kept so, and the way to change it. */
export function useHeld<T>(key: QueryKey, initial: T): [T, (next: T) => void] {
  const queries = useQueryClient();
  const { data = initial } = useQuery<T>(held(key));
  const name = JSON.stringify(key);
  const set = useCallback((next: T) => void queries.setQueryData<T>(JSON.parse(name), next), [queries, name]);
  return [data, set];
}

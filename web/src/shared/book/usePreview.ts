import { keepPreviousData, type QueryKey, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useWhenever } from "../useWhenever";

/** How long what is typed rests before it is asked what it would do, in milliseconds. */
const REST = 300;

/**
 * What something would do, while it is typed: asked once the hands rest, and no more when they have moved on. `fresh` says
 * whether the answer is that to what stands there now.
 */
export function usePreview<T>(key: QueryKey, ask: (signal: AbortSignal) => Promise<T>, enabled = true, rest = REST) {
  const now = JSON.stringify(key);
  const [rested, settle] = useState({ now, key, ask });
  useWhenever([now, rest], () => {
    const timer = setTimeout(() => settle({ now, key, ask }), rest);
    return () => clearTimeout(timer);
  });
  const asked = useQuery({
    queryKey: rested.key,
    queryFn: ({ signal }) => rested.ask(signal),
    enabled: enabled && rested.now === now,
    retry: false,
    gcTime: 0,
    placeholderData: keepPreviousData,
  });
  return { ...asked, fresh: rested.now === now && asked.isSuccess && !asked.isPlaceholderData };
}

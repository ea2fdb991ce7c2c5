import { type EffectCallback, useEffect, useEffectEvent, useLayoutEffect } from "react";

/** Does something when one of `these` has become another, with everything else as it is by then. */
export function useWhenever(these: readonly unknown[], does: EffectCallback) {
  const now = useEffectEvent(does);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it waits for is what is listed
  useEffect(() => now(), these);
}

/** The same before the next key, or before anything is seen. */
export function useAtOnce(these: readonly unknown[], does: () => void) {
  const now = useEffectEvent(does);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it waits for is what is listed
  useLayoutEffect(() => now(), these);
}

import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";

const revisionOf = (data: unknown): number => {
  const { revision, info } = (data ?? {}) as { revision?: unknown; info?: unknown };
  if (info) return revisionOf(info);
  return typeof revision === "number" ? revision : 0;
};
const typing = () =>
  document.activeElement instanceof HTMLInputElement || document.activeElement instanceof HTMLTextAreaElement;

/**
 * What somebody else wrote is read again, so that nobody looks at old figures; while one types it waits, so that nothing
 * changes under one's hands unseen. One's own writes bring their figures with them.
 */
export function useNews(project: string, revision: number, outside: string, asked: number) {
  const queries = useQueryClient();
  const known = useRef(revision);
  const elsewhere = useRef(outside);
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked at again whenever the frame was read
  useEffect(() => {
    if (known.current === 0) known.current = revision;
    // What another project gives has no revision here: where it moved, everything is read again.
    const moved = elsewhere.current !== outside && elsewhere.current !== "";
    if ((revision === known.current && !moved) || typing()) {
      if (elsewhere.current === "") elsewhere.current = outside;
      return;
    }
    known.current = revision;
    elsewhere.current = outside;
    if (moved) {
      queries.invalidateQueries({ queryKey: [project] });
      return;
    }
    // The sheet of an option counts by itself.
    const counts = ({ queryKey: k }: { queryKey: readonly unknown[] }) => k[0] === project && k[1] !== "options";
    const held = queries.getQueriesData({ predicate: counts }).map(([, data]) => revisionOf(data));
    if (Math.max(0, ...held) < revision) queries.invalidateQueries({ queryKey: [project] });
  }, [queries, project, revision, outside, asked]);
}

import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { keys, useWhenever } from "../shared";
import { revisionOf, see, settled } from "../shared/book";

const typing = () =>
  document.activeElement instanceof HTMLInputElement || document.activeElement instanceof HTMLTextAreaElement;

/**
 * What somebody else wrote is read again, so that nobody looks at old figures; while one types it waits, so that nothing
 * changes under one's hands unseen. One's own writes bring their figures with them.
 */
export function useNews(project: string, revision: number, outside: string, asked: number) {
  const queries = useQueryClient();
  const elsewhere = useRef(outside);
  /** An earlier revision was told once: it may have been asked before one's own write was answered. */
  const earlier = useRef(0);
  useWhenever([queries, project, revision, outside, asked], () => {
    if (!revision) return;
    if (!revisionOf(project)) see(project, revision);
    const look = async () => {
      await settled(project);
      // What another project gives has no revision here: where it moved, everything is read again.
      const moved = elsewhere.current !== outside && elsewhere.current !== "";
      const known = revisionOf(project);
      const back = revision < known && earlier.current === revision;
      earlier.current = revision < known ? revision : 0;
      if (elsewhere.current === "") elsewhere.current = outside;
      if (!(revision > known || back || moved) || typing()) return;
      elsewhere.current = outside;
      see(project, back ? revision : Math.max(revision, known));
      queries.invalidateQueries({ queryKey: keys.project(project).all });
    };
    void look();
  });
}

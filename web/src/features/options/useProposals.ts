import { useCallback, useEffect, useRef, useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";

export type Proposal = Schemas["ProposalsOut"]["found"][number];

interface Looked {
  found: Proposal[];
  tried: number;
  of: number | null;
  problem: string | null;
}
const NONE: Looked = { found: [], tried: 0, of: null, problem: null };

const best = (found: Proposal[]) =>
  [...found].sort(
    (a, b) => b.gained_days - a.gained_days || Number(a.cost) - Number(b.cost) || a.code.localeCompare(b.code),
  );

/** Looks for proposals a part at a time, so that the first are there at once and it can be stopped at any moment. */
export function useProposals(project: string) {
  const [looked, setLooked] = useState<Looked>(NONE);
  const [busy, setBusy] = useState(false);
  const run = useRef(0);
  const stop = useCallback(() => {
    run.current++;
    setBusy(false);
  }, []);
  const look = useCallback(
    async (activities?: string[]) => {
      const mine = ++run.current;
      setBusy(true);
      setLooked(NONE);
      let next = 0;
      let revision: number | null = null;
      let found: Proposal[] = [];
      try {
        for (;;) {
          const part: Schemas["ProposalsOut"] = await take(
            client.POST("/api/projects/{project}/options/proposals", {
              params: { path: { project } },
              body: activities ? { next, activities } : { next },
            }),
          );
          if (mine !== run.current) return;
          // The plan moved on meanwhile: what was found is not of this plan.
          if (revision !== null && part.revision !== revision) {
            next = 0;
            found = [];
            revision = null;
            continue;
          }
          revision = part.revision;
          next = part.next;
          found = best([...found, ...part.found]);
          setLooked({ found, tried: part.next, of: part.of, problem: null });
          if (part.next >= part.of) break;
        }
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (mine === run.current) setLooked((now) => ({ ...now, problem: error.message }));
      }
      if (mine === run.current) setBusy(false);
    },
    [project],
  );
  useEffect(() => () => void run.current++, []);
  return { ...looked, busy, look, stop };
}

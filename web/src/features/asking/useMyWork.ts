import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { keys } from "../../shared";

type Given = Schemas["GivenForm"];
type Cells = Record<string, string>;
/** What is being said of an activity: cells, and hours by resource. */
export interface Draft {
  cells: Cells;
  hours: Record<string, Cells>;
}
/** What this device keeps: what is being typed, what is on its way, what was refused, and the list as it was read last. */
interface Kept {
  drafts: Record<string, Draft>;
  unsent: Given[];
  refused: Record<string, { why: string; field: string }>;
  work: Schemas["MyWorkOut"] | null;
}

const NONE: Kept = { drafts: {}, unsent: [], refused: {}, work: null };
const EVERY = 15_000;
export const draftKey = (request: number, code: string) => `${request}.${code}`;

function readKept(at: string): Kept {
  try {
    return { ...NONE, ...JSON.parse(localStorage.getItem(at) ?? "{}") };
  } catch {
    return NONE;
  }
}

/** One's own work and what one says of it. It is kept on this device until the server has it: each answer arrives once. */
export function useMyWork(username: string) {
  const at = `my work.${username}`;
  const queries = useQueryClient();
  const [kept, setKept] = useState(() => readKept(at));
  const [away, setAway] = useState(false);
  const change = useCallback(
    (next: (now: Kept) => Kept) => {
      // What another window of this device keeps counts too: what is there is read anew each time.
      const now = next(readKept(at));
      localStorage.setItem(at, JSON.stringify(now));
      setKept(now);
    },
    [at],
  );
  const read = useQuery({
    queryKey: keys.myWork,
    queryFn: async () => {
      const work = await take(client.GET("/api/my-work"));
      setAway(false);
      change((now) => ({ ...now, work }));
      return work;
    },
    retry: false,
  });
  const send = useCallback(async () => {
    const { unsent } = readKept(at);
    if (!unsent.length) return;
    try {
      const answers = await take(client.POST("/api/my-work", { body: { answers: unsent } }));
      const known = new Map(unsent.map((u) => [u.uid, u]));
      change((now) => {
        const [drafts, refused] = [{ ...now.drafts }, { ...now.refused }];
        for (const a of answers) {
          const given = known.get(a.uid);
          if (!given) continue;
          const key = draftKey(given.request, given.activity);
          if (a.kept) delete refused[key];
          else {
            refused[key] = { why: a.why, field: a.field };
            drafts[key] ??= { cells: given.cells ?? {}, hours: (given.hours ?? {}) as Draft["hours"] };
          }
        }
        const done = new Set(answers.map((a) => a.uid));
        return { ...now, drafts, refused, unsent: now.unsent.filter((u) => !done.has(u.uid)) };
      });
      setAway(false);
      queries.invalidateQueries({ queryKey: keys.myWork });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setAway(true);
    }
  }, [at, change, queries]);
  useEffect(() => {
    void send();
    const back = () => void send();
    window.addEventListener("online", back);
    const timer = setInterval(back, EVERY);
    return () => {
      window.removeEventListener("online", back);
      clearInterval(timer);
    };
  }, [send]);
  const without = <T>(of: Record<string, T>, key: string) =>
    Object.fromEntries(Object.entries(of).filter(([k]) => k !== key));
  const draft = (key: string, next: Draft) =>
    change((now) => ({ ...now, drafts: { ...now.drafts, [key]: next }, refused: without(now.refused, key) }));
  const forget = (key: string) => change((now) => ({ ...now, drafts: without(now.drafts, key) }));
  /** Sends what was typed: from now on it is on its way, also where the line is gone. */
  const sendAll = () => {
    change((now) => {
      const given = Object.entries(now.drafts)
        .filter(([, d]) => says(d))
        .map(([key, d]): Given => {
          const [request = "", ...code] = key.split(".");
          return { uid: crypto.randomUUID(), request: Number(request), activity: code.join("."), ...d };
        });
      return { ...now, drafts: {}, unsent: [...now.unsent, ...given] };
    });
    void send();
  };
  return { read, kept, work: read.data ?? kept.work, away, draft, forget, sendAll };
}

/** Whether anything is said. */
export const says = (d: Draft | undefined) =>
  !!d && [d.cells, ...Object.values(d.hours)].some((c) => Object.values(c).some((t) => t.trim()));

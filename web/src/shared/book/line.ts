/** The writes of each project that are on their way, one after the other, whichever part of the screen sent them. */
const sent = new Map<string, Promise<unknown>>();

/** When every write sent so far has been answered. What is read of a plan waits for it, so as to know of them all. */
export const settled = (project: string) => sent.get(project) ?? Promise.resolve();

/** Does a write when those before it have been answered. */
export function inLine<T>(project: string, work: () => Promise<T>): Promise<T> {
  const next = settled(project).then(work);
  const told = next.then(
    () => undefined,
    () => undefined,
  );
  sent.set(project, told);
  return next;
}

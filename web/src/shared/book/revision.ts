/** The revision of each project that everything shown of it is known to be at. Every write of it says this one. */
const seen = new Map<string, number>();

export const revisionOf = (project: string) => seen.get(project) ?? 0;
export const see = (project: string, revision: number) => void seen.set(project, revision);

/** The revision that an answer tells, itself or in one of its parts. */
export function revisionIn(answer: unknown): number | undefined {
  if (typeof answer !== "object" || answer === null) return undefined;
  if ("revision" in answer && typeof answer.revision === "number") return answer.revision;
  const parts = Object.values(answer).filter((part) => !Array.isArray(part));
  for (const part of parts)
    if (typeof part === "object" && part && "revision" in part && typeof part.revision === "number")
      return part.revision;
  return undefined;
}

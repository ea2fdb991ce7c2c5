/** Values by what they have in common, in the order in which each group begins. */
export function groupBy<K, V>(values: Iterable<V>, key: (value: V) => K): Map<K, V[]> {
  const out = new Map<K, V[]>();
  for (const value of values) {
    const of = key(value);
    const group = out.get(of);
    if (group) group.push(value);
    else out.set(of, [value]);
  }
  return out;
}

/** The one of a few that a text is, such as one that an address says; the first where it is none. */
export const oneOf = <T extends string>(few: readonly [T, ...T[]], text: string | undefined): T =>
  few.find((one) => one === text) ?? few[0];

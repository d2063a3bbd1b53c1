/** Entries by the group they belong to: those of group g are entries[start[g] .. start[g + 1]). */
export interface Grouped {
  readonly start: Int32Array;
  readonly entries: Int32Array;
}

/**
 * Lays entries out by their groups, in the order they are told.
 * @param each tells every entry with its group; it is asked twice and must tell the same
 */
export function grouped(groups: number, each: (tell: (group: number, entry: number) => void) => void): Grouped {
  const start = new Int32Array(groups + 1);
  each((group) => {
    start[group + 1]++;
  });
  for (let g = 0; g < groups; g++) start[g + 1] += start[g];
  const next = start.slice(0, groups);
  const entries = new Int32Array(start[groups]);
  each((group, entry) => {
    entries[next[group]++] = entry;
  });
  return { start, entries };
}

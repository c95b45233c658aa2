/** The line of a request that a path means: 3 of `lines[3].marks[7]`; null where it means none. */
export function lineOfPath(path: string): number | null {
  const index = /^lines\[(\d+)\]/.exec(path)?.[1];
  return index === undefined ? null : Number(index);
}

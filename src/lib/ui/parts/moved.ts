/** A list with one of it moved a place up or down; as it is where it stands at that end. */
export function moved<T>(list: readonly T[], index: number, by: -1 | 1): T[] {
  const next = [...list];
  if (index + by < 0 || index + by >= list.length) return next;
  const [one] = next.splice(index, 1);
  next.splice(index + by, 0, one!);
  return next;
}

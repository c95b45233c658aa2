const ONLY_AFTER = new Set(['put in', 'taken out']);

/** A change of a mark as its timeline says it; a part and a step on the floor have no before. */
export function sayChange(
  { field, from, to }: { field: string; from: string | null; to: string | null },
  kind: string
): string {
  if (ONLY_AFTER.has(field)) return `${field} ${to}`;
  if (kind === 'station') return `${field}: ${to}`;
  if (field === 'state') return `${from} → ${to}`;
  return `${field}: ${from ?? 'none'} → ${to ?? 'none'}`;
}

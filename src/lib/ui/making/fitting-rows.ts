/** What becomes of a part that is in the unit. */
export const FATES = [
  ['stays', 'stays in'],
  ['usable', 'comes out, usable'],
  ['held', 'comes out, held'],
  ['scrap', 'comes out, scrapped']
] as const;
export type Fate = (typeof FATES)[number][0];

export type MarkKind = 'lot' | 'serial' | 'bulk';

/** A part that is in the unit, what is to become of it, and what goes in instead. */
export interface PartRow {
  product: string;
  kind: MarkKind;
  number: string | null;
  position: string | null;
  quantity: string;
  unit: string;
  fate: Fate;
  to: string;
  /** The number of what goes in at its place; nothing where it is empty. */
  instead: string;
}

/** A part that goes in where nothing was. */
export interface NewPart {
  product: string;
  kind: MarkKind;
  number: string;
  quantity: string;
  position: string;
}

const numbered = (kind: MarkKind, number: string | null) => {
  if (kind === 'bulk' || !number?.trim()) return {};
  return kind === 'serial' ? { serial: number.trim() } : { lot: number.trim() };
};
const at = (position: string | null) => (position?.trim() ? { position: position.trim() } : {});

export const comesOut = ({ fate }: PartRow): boolean => fate !== 'stays';
export const goesIn = ({ instead, kind, fate }: PartRow): boolean =>
  fate !== 'stays' && (instead.trim() !== '' || (kind === 'bulk' && instead !== ''));

/** What is sent: what comes out of the unit, and what goes in, in the order of the rows. */
export function fittingOf(rows: readonly PartRow[], fresh: readonly NewPart[]) {
  const remove = rows.filter(comesOut).map((row) => ({
    product: row.product,
    ...numbered(row.kind, row.number),
    quantity: row.quantity,
    ...at(row.position),
    to: row.to,
    state: row.fate
  }));
  const swapped = rows.filter(goesIn).map((row) => ({
    product: row.product,
    ...numbered(row.kind, row.instead),
    quantity: row.quantity,
    ...at(row.position)
  }));
  const added = fresh.map((row) => ({
    product: row.product.trim(),
    ...numbered(row.kind, row.number),
    quantity: row.quantity,
    ...at(row.position)
  }));
  return { remove, fit: [...swapped, ...added] };
}

export interface SaidOfRow {
  path: string;
  message: string;
}

/** Where in the request a row stands, as faults name it: what comes out, and what goes in. */
export function pathsOf(rows: readonly PartRow[], index: number): string[] {
  const before = rows.slice(0, index);
  const row = rows[index]!;
  return [
    ...(comesOut(row) ? [`units[0].remove[${before.filter(comesOut).length}]`] : []),
    ...(goesIn(row) ? [`units[0].fit[${before.filter(goesIn).length}]`] : [])
  ];
}

/** The same of a part that goes in where nothing was. */
export const pathOfNew = (rows: readonly PartRow[], index: number): string =>
  `units[0].fit[${rows.filter(goesIn).length + index}]`;

/** What is said of a row, in one sentence after the other. */
export const saidAt = (faults: readonly SaidOfRow[], paths: readonly string[]): string =>
  faults
    .filter((fault) => paths.some((path) => `${fault.path}.`.startsWith(`${path}.`)))
    .map((fault) => fault.message)
    .join(' ');

/** What the button does, in words. */
export function sayWork(rows: readonly PartRow[], fresh: readonly NewPart[]): string {
  const out = rows.filter(comesOut).length;
  const into = rows.filter(goesIn).length + fresh.length;
  const parts = (n: number) => (n === 1 ? '1 part' : `${n} parts`);
  if (out > 0 && into > 0)
    return out === into ? `Swap ${parts(out)}` : `Take ${out} out, put ${into} in`;
  if (out > 0) return `Take ${parts(out)} out`;
  return `Put ${parts(into)} in`;
}

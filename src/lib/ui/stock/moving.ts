import { lineOfPath } from '../../core/faults/line-of-path.ts';
import type { MoveLine, MoveUnit } from '../../core/ledger/request.ts';
import { formatQuantity, parseQuantity } from '../../core/quantity/quantity.ts';
import type { Lying } from '../../core/stock/lying.ts';
import type { Fault, Note } from '../bench/booking-sheet.svelte.ts';

/** A part of what lies somewhere, on its way; a lot split over places has several. */
export interface Part<Row extends Lying = Lying> {
  row: Row;
  to: string;
  quantity: string;
  going: boolean;
}

export const partKey = ({ mark, from }: Lying): string => `${mark} ${from}`;

/** Whether a part goes: it is ticked and has somewhere to go. */
export const goes = ({ going, to }: Part): boolean => going && to !== '';

/** The parts that go as lines of a move, in their order: line n is `parts.filter(goes)[n]`. */
export const linesOf = (parts: readonly Part[]): MoveLine[] =>
  parts.filter(goes).map(({ row, to, quantity: amount }) => ({
    product: row.product,
    from: row.from,
    to,
    ...named(row, amount)
  }));

function named({ kind, number, lot }: Lying, amount: string): Partial<MoveLine> {
  if (kind === 'serial') return { serial: number!, ...(lot ? { lot } : {}) };
  return kind === 'lot' ? { lot: number!, quantity: amount } : { quantity: amount };
}

/** Adds what was scanned; what is there already is ticked. @returns the parts and how many are new */
export function addParts(
  parts: readonly Part[],
  rows: readonly Lying[],
  to: string
): { parts: Part[]; added: number } {
  const there = new Set(parts.map((part) => partKey(part.row)));
  const fresh = rows.filter((row) => !there.has(partKey(row)));
  const wanted = new Set(rows.map(partKey));
  const ticked = parts.map((part) =>
    wanted.has(partKey(part.row)) ? { ...part, going: true, to: part.to || to } : part
  );
  const added = fresh.map((row): Part => ({ row, to, quantity: row.quantity, going: true }));
  return { parts: [...added, ...ticked], added: fresh.length };
}

/** Which of the numbers asked for were not found. */
export function missingOf(asked: readonly string[], rows: readonly Lying[]): string[] {
  const found = new Set(
    rows
      .flatMap(({ number, product }) => [number ?? product, product])
      .map((one) => one.toUpperCase())
  );
  return asked.filter((one) => !found.has(one.toUpperCase()));
}

/** That these numbers lie nowhere, as a sentence; empty where there are none. */
export function sayMissing(missing: readonly string[]): string {
  if (missing.length === 0) return '';
  const more = missing.length > 5 ? ` and ${missing.length - 5} more` : '';
  const lie = missing.length === 1 ? 'lies' : 'lie';
  return `${missing.slice(0, 5).join(', ')}${more} ${lie} nowhere here. Check the number.`;
}

/** That more lies there than one booking takes. */
export const sayCut = (taken: number, total: number): string =>
  `${taken} of ${total} rows are taken, as many as one booking holds. Book these, then take the rest.`;

/** Splits a part in two: half stays, the rest goes to a place of its own. */
export function splitPart(parts: readonly Part[], at: number): Part[] {
  const part = parts[at]!;
  const all = parseQuantity(part.quantity);
  if (all === null) return [...parts];
  const whole = part.row.unit === 'each' || !part.quantity.includes('.');
  const first = whole ? all.div(2).floor() : all.div(2).toDecimalPlaces(3);
  if (first.lte(0)) return [...parts];
  return [
    ...parts.slice(0, at),
    { ...part, quantity: formatQuantity(first) },
    { ...part, quantity: formatQuantity(all.minus(first)), to: '' },
    ...parts.slice(at + 1)
  ];
}

/** Everything not yet sent somewhere goes to this place. */
export const sendTo = (parts: readonly Part[], to: string): Part[] =>
  parts.map((part) => (part.going && part.to === '' ? { ...part, to } : part));

/** What is said beside each part, by its place in the list: what stops, or what is worth knowing. */
export function verdictsOf(
  parts: readonly Part[],
  faults: readonly Fault[],
  notes: readonly Note[]
): Map<number, { stop: boolean; text: string }> {
  const going = parts.flatMap((part, at) => (goes(part) ? [at] : []));
  const verdicts = new Map<number, { stop: boolean; text: string }>();
  const tell = (stop: boolean, { path, message }: Note) => {
    const at = going[lineOfPath(path) ?? -1];
    if (at !== undefined) verdicts.set(at, { stop, text: message });
  };
  for (const note of notes) tell(false, note);
  for (const fault of faults) tell(true, fault);
  return verdicts;
}

/** What a draft keeps: where each thing was to go. */
export interface KeptParts {
  parts: Part[];
  units: MoveUnit[];
  document: string;
  /** Numbers that were not known without a line. */
  later?: readonly string[];
  key?: string;
}

/**
 * What is on the list now with what a draft said of it: what lies elsewhere meanwhile, or in
 * another amount, begins anew.
 */
export function withKept<Row extends Lying>(
  now: readonly Part<Row>[],
  kept: readonly Part[]
): Part<Row>[] {
  return now.flatMap((part) => {
    const before = kept.filter((one) => partKey(one.row) === partKey(part.row));
    const same = before.length > 0 && before.every((one) => one.row.quantity === part.row.quantity);
    return same ? before.map((one) => ({ ...one, row: part.row })) : [part];
  });
}

import { groupBy } from '../../core/group-by.ts';
import { isQuantity, totalOf } from '../../core/quantity/quantity.ts';
import { lineOfPath } from '../../core/faults/line-of-path.ts';
import { messagesOf, type Refusal } from '../frame/api.ts';
import type { Fault } from '../bench/booking-sheet.svelte.ts';
import type { Lying } from '../../core/stock/lying.ts';
import { addParts, partKey, type Part } from './moving.ts';

/** A line of a transfer as the API takes it. */
interface TransferLine {
  product: string;
  place?: string;
  quantity?: string;
  marks?: { lot?: string; serial?: string; quantity?: string }[];
}

/** What is sent of a transfer: line n is of the part at `of[n]`. */
export interface Asked {
  lines: TransferLine[];
  of: number[];
  units: string[];
}

/** The ticked parts as lines that leave the places they lie at, one each. */
export const leaving = (parts: readonly Part[], units: readonly string[]): Asked => ({
  ...linesWith(parts, ({ row, quantity }) => ({
    product: row.product,
    place: row.from,
    ...marksOf(row, quantity)
  })),
  units: [...units]
});

/** A line of each ticked part that has one. */
export function linesWith(
  parts: readonly Part[],
  lineOf: (part: Part) => TransferLine | null
): Pick<Asked, 'lines' | 'of'> {
  const asked: Pick<Asked, 'lines' | 'of'> = { lines: [], of: [] };
  parts.forEach((part, at) => {
    const line = part.going ? lineOf(part) : null;
    if (line === null) return;
    asked.lines.push(line);
    asked.of.push(at);
  });
  return asked;
}

export function marksOf(
  { kind, number, lot }: Part['row'],
  quantity: string
): Partial<TransferLine> {
  if (kind === 'bulk') return { quantity };
  if (kind === 'lot') return { marks: [{ lot: number!, quantity }] };
  return { marks: [{ serial: number!, ...(lot ? { lot } : {}) }] };
}

/** What a refusal says of single parts, by their place in the list; and what it says of none. */
export function saidOfParts(
  { of }: Pick<Asked, 'of'>,
  errors: readonly Pick<Fault, 'path' | 'message'>[]
): { said: Map<number, string>; rest: string[] } {
  const said = new Map<number, string>();
  const rest: string[] = [];
  for (const { path, message } of errors) {
    const at = of[lineOfPath(path) ?? -1];
    if (at === undefined) rest.push(message);
    else said.set(at, message);
  }
  return { said, rest };
}

/** How much of each product is ticked on the sheet, by its code; what is no quantity is left out. */
export function tickedByProduct(parts: readonly Part[]): Map<string, string> {
  const ticked = parts.filter((part) => part.going && isQuantity(part.quantity));
  const byProduct = groupBy(ticked, (part) => part.row.product);
  return new Map(
    [...byProduct].map(([product, of]) => [product, totalOf(of.map((part) => part.quantity))])
  );
}

/** Puts what was proposed on the sheet, each with how much of it to take. */
export function takeProposed(
  parts: readonly Part[],
  proposed: readonly (Lying & { take: string })[]
): Part[] {
  const amounts = new Map(proposed.map((row) => [partKey(row), row.take]));
  return addParts(parts, proposed, '').parts.map((part) => ({
    ...part,
    quantity: amounts.get(partKey(part.row)) ?? part.quantity
  }));
}

/** What is not to be had at the site, as a sentence; empty where all of it is. */
export function sayShort(
  short: readonly { product: string; quantity: string }[],
  site: string
): string {
  if (short.length === 0) return '';
  const named = short.slice(0, 5).map(({ product, quantity }) => `${quantity} of ${product}`);
  const more = short.length > 5 ? ` and ${short.length - 5} more` : '';
  return `Not free at ${site}: ${named.join(', ')}${more}.`;
}

/** What a refusal says of single parts, and what is said beside them: all of it where it says of none. */
export function toldOf(
  of: Pick<Asked, 'of'>,
  refusal: Refusal
): { said: Map<number, string>; refused: string[] } {
  const { said, rest } = saidOfParts(of, refusal.errors);
  return { said, refused: said.size > 0 ? rest : messagesOf(refusal) };
}

import { lineOfPath } from '../../core/faults/line-of-path.ts';
import type { Fault } from '../bench/booking-sheet.svelte.ts';
import type { Part } from './moving.ts';

/** A line of a transfer as the API takes it. */
interface TransferLine {
  product: string;
  place?: string;
  quantity?: string;
  marks?: { lot?: string; serial?: string; quantity?: string }[];
}

/**
 * The ticked parts as lines, one each. @param leaving whether they leave the place they lie at; what
 * arrives comes from the way
 */
export const transferLines = (parts: readonly Part[], leaving: boolean): TransferLine[] =>
  parts
    .filter((part) => part.going)
    .map(({ row, quantity }) => ({
      product: row.product,
      ...(leaving ? { place: row.from } : {}),
      ...marksOf(row, quantity)
    }));

function marksOf({ kind, number, lot }: Part['row'], quantity: string): Partial<TransferLine> {
  if (kind === 'bulk') return { quantity };
  if (kind === 'lot') return { marks: [{ lot: number!, quantity }] };
  return { marks: [{ serial: number!, ...(lot ? { lot } : {}) }] };
}

/** What a refusal says of single parts, by their place in the list; and what it says of none. */
export function saidOfParts(
  parts: readonly Part[],
  errors: readonly Pick<Fault, 'path' | 'message'>[]
): { said: Map<number, string>; rest: string[] } {
  const going = parts.flatMap((part, at) => (part.going ? [at] : []));
  const said = new Map<number, string>();
  const rest: string[] = [];
  for (const { path, message } of errors) {
    const at = going[lineOfPath(path) ?? -1];
    if (at === undefined) rest.push(message);
    else said.set(at, message);
  }
  return { said, rest };
}

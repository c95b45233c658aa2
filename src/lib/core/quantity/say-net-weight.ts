import { formatQuantity, quantity, total } from './quantity.ts';

/** A row of a paper: how much of it, and what one weighs net in kg; null where nobody said. */
export interface Weighed {
  quantity: string;
  net: string | null;
}

/** Net weight in kg of all that has one; says of how many rows it is not known, never nothing. */
export function sayNetWeight(rows: readonly Weighed[]): string {
  const known = rows.filter((row) => row.net !== null);
  const sum = total(known.map((row) => quantity(row.quantity).times(row.net!)));
  const rest = rows.length - known.length;
  const open = `${rest} ${rest === 1 ? 'row' : 'rows'} of unknown weight`;
  if (known.length === 0) return rows.length === 0 ? 'nothing' : 'not known';
  return `${formatQuantity(sum)} kg${rest > 0 ? `, and ${open}` : ''}`;
}

import type { Bill, BillPart, Follow } from '../../../core/catalogue/bill.ts';
import { listOf, sayQuantity } from '../../parts/say.ts';

/** How a part is named, as a choice. */
export const FOLLOW_CHOICES: readonly (readonly [Follow, string])[] = [
  ['unit', 'for each unit'],
  ['batch', 'for the batch'],
  ['drawn', 'drawn by itself']
];

/** How a part is named when something is made. */
const FOLLOWED: Record<Follow, string> = {
  unit: 'named for each unit',
  batch: 'named once for the batch',
  drawn: 'drawn by itself, first expired first'
};

/** What is said of a part beside how much of it goes in, a clause each. */
export const sayPart = (part: BillPart): string[] => [FOLLOWED[part.follow], ...sayRare(part)];

/** What only some parts have: where it sits, what may go in instead, its revision, its scrap. */
export const sayRare = (part: Omit<BillPart, 'product' | 'quantity' | 'follow'>): string[] => [
  ...(part.positions.length > 0 ? [`sits ${listOf(part.positions, 'and')}`] : []),
  ...(part.revision === null ? [] : [`of revision ${part.revision}`]),
  ...(part.alternates.length > 0 ? [`or ${listOf(part.alternates, 'or')} instead`] : []),
  ...(Number(part.scrapPercent) > 0 ? [`${part.scrapPercent} % more is planned for`] : [])
];

/** Of what a bill has beside its parts, a sentence each. */
export function sayBill(
  bill: Bill,
  made: { unit: string; currency: string },
  nameOf: (product: string) => string
): string[] {
  const perBatch = bill.parts.some((part) => part.per === 'batch');
  const { batch, addedCost, note } = bill;
  return [
    ...(batch === null ? [] : [`A batch makes ${sayQuantity(batch)} ${made.unit}.`]),
    ...(batch === null && perBatch ? ['The whole order is one batch.'] : []),
    ...bill.coProducts.map(
      ({ product, quantity, share }) =>
        `Making one also makes ${sayQuantity(quantity)} of ${product} ${nameOf(product)}, which takes ${share} % of what goes in.`
    ),
    ...(addedCost == null
      ? []
      : [`Making one adds ${sayQuantity(addedCost)} ${made.currency} to what its parts cost.`]),
    ...(note ? [`New in it: ${note}`] : [])
  ];
}

import { sayDay } from '../calendar/say-day.ts';
import type { MarkState } from '../catalogue/marking.ts';
import { numberKey, shown } from '../numbers/number.ts';
import { formatQuantity, total, type Quantity } from '../quantity/quantity.ts';
import type { Faults } from '../faults/fault.ts';
import {
  codeKey,
  markGroup,
  type KnownMark,
  type KnownPartner,
  type KnownPlace,
  type KnownProduct,
  type Snapshot
} from './snapshot.ts';

export function findProduct(
  snapshot: Snapshot,
  code: string,
  path: string,
  faults: Faults
): KnownProduct | null {
  const product = snapshot.products.get(codeKey(code));
  if (!product)
    faults.add(
      'product.unknown',
      path,
      `There is no product ${shown(code)}. Check the code, or set the product up first.`,
      shown(code)
    );
  return product ?? null;
}

export function findPlace(
  snapshot: Snapshot,
  code: string,
  path: string,
  faults: Faults
): KnownPlace | null {
  const place = snapshot.places.get(codeKey(code));
  if (!place)
    faults.add(
      'place.unknown',
      path,
      `There is no place ${shown(code)}. Check the code, or set the place up first.`,
      shown(code)
    );
  if (!place?.transit) return place ?? null;
  faults.add(
    'place.unknown',
    path,
    `${place.name} is no place to lie at. Book what arrives of the transfer, or name another place.`,
    place.code
  );
  return null;
}

export function findPartner(
  snapshot: Snapshot,
  code: string,
  as: 'supplier' | 'customer',
  path: string,
  faults: Faults
): KnownPartner | null {
  const partner = snapshot.partners.get(codeKey(code));
  if (!partner)
    faults.add(
      'partner.unknown',
      path,
      `There is no partner ${shown(code)}. Check the code, or set the partner up first.`,
      shown(code)
    );
  else if (!partner[as])
    faults.add(
      'partner.unknown',
      path,
      `${partner.name} is not set up as a ${as}. Name a ${as}, or change the partner in Setup.`,
      partner.code
    );
  return partner ?? null;
}

/** Where a mark lies, in words: `Quay Works, rack B2 (12)`; null when it lies nowhere. */
export function whereItLies(snapshot: Snapshot, mark: KnownMark): string | null {
  const rows = [...(snapshot.stock.get(mark.id) ?? [])];
  if (rows.length === 0) return null;
  return rows
    .map(([code, amount]) => {
      const place = snapshot.places.get(code);
      return `${place ? `${place.site}, ${place.name}` : code}${mark.kind === 'serial' ? '' : ` (${amount.toFixed()})`}`;
    })
    .join(' and ');
}

/** How much of a mark is on hand, in words: `12 m on hand`, `nothing on hand`. */
export function saidOnHand(snapshot: Snapshot, mark: KnownMark, product: KnownProduct): string {
  const sum = total((snapshot.stock.get(mark.id) ?? new Map<string, Quantity>()).values());
  return sum.isZero() ? 'nothing on hand now' : `${formatQuantity(sum)} ${product.unit} on hand`;
}

/** Lot or serial with its number, as a sentence begins with it. */
export const nameOf = (
  mark: { kind: KnownMark['kind']; number: string | null },
  product: KnownProduct
): string =>
  mark.kind === 'bulk'
    ? `Unmarked ${product.code}`
    : `${mark.kind === 'lot' ? 'Lot' : 'Serial'} ${mark.number}`;

/** How a mark stands: what its lot is, it is too, where it says nothing itself. */
export function standingOf(
  snapshot: Snapshot,
  mark: KnownMark
): { lot: KnownMark | undefined; state: MarkState; expires: string | null } {
  const lot = mark.lotId === null ? undefined : snapshot.marksById.get(mark.lotId);
  return {
    lot,
    state: mark.state === 'usable' ? (lot?.state ?? 'usable') : mark.state,
    expires: mark.expires ?? lot?.expires ?? null
  };
}

/**
 * Looks whether a mark may be used or sent: held, rejected or expired on the day of the event are
 * faults, answered as the plan says.
 * @returns whether it may
 */
export function checkUsable(
  snapshot: Snapshot,
  product: KnownProduct,
  mark: KnownMark,
  path: string,
  faults: Faults
): boolean {
  const { lot, state, expires } = standingOf(snapshot, mark);
  if (state === 'usable' && (expires === null || expires >= snapshot.day)) return true;
  const name = nameOf(mark, product);
  const number = mark.number ?? undefined;
  const whose =
    mark.state === 'usable' && lot ? `${name} is within lot ${lot.number}, which is` : `${name} is`;
  let may = true;
  if (state === 'held')
    may =
      faults.answer(
        product.plan,
        'held',
        path,
        `${whose} held by quality. Take another, or have it released.`,
        number
      ) && may;
  if (state === 'rejected')
    may =
      faults.answer(product.plan, 'rejected', path, `${whose} rejected. Take another.`, number) &&
      may;
  if (expires !== null && expires < snapshot.day)
    may =
      faults.answer(
        product.plan,
        'expired',
        path,
        `${name} expired on ${sayDay(expires)}. Take another.`,
        number
      ) && may;
  return may;
}

/** The product of a mark the snapshot knows. */
export const productOf = (snapshot: Snapshot, productId: number): KnownProduct =>
  [...snapshot.products.values()].find((one) => one.id === productId)!;

/** Finds an existing mark by its kind and number. */
export function findMark(
  snapshot: Pick<Snapshot, 'marks'>,
  product: KnownProduct,
  kind: KnownMark['kind'],
  number: string
): KnownMark | null {
  return snapshot.marks.get(markGroup(product.id, kind))?.get(numberKey(number)) ?? null;
}

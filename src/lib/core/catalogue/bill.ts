import { parseQuantity, quantity, type Quantity } from '../quantity/quantity.ts';

/**
 * How a part is followed: named for each unit, named once for the batch, or drawn by itself, first
 * expired first.
 */
export const FOLLOWS = ['unit', 'batch', 'drawn'] as const;
export type Follow = (typeof FOLLOWS)[number];
/** Whether a quantity is needed for every unit made, or once for every batch begun. */
export const PER = ['unit', 'batch'] as const;
export type Per = (typeof PER)[number];

/** One line of a bill. Quantities and percentages are decimal strings, products are codes. */
export interface BillPart {
  product: string;
  quantity: string;
  per: Per;
  /** How much more is planned for than goes in, in per cent. */
  scrapPercent: string;
  follow: Follow;
  /** Where on the unit each of them sits: left, right. Empty where that does not matter. */
  positions: readonly string[];
  /** What may go in instead, in order of preference. */
  alternates: readonly string[];
  /** The revision a part must be of, by its fact “revision”. */
  revision: string | null;
}

/** What else a build makes; `share` is the part of the inputs it takes, in per cent. */
export interface CoProduct {
  product: string;
  quantity: string;
  share: string;
}

export interface Bill {
  product: string;
  version: number;
  validFrom: string;
  /** How much one batch makes; null where the whole order is one. */
  batch: string | null;
  /** What making one costs beside its parts, for whoever sees costs. */
  addedCost?: string | null;
  note: string;
  parts: readonly BillPart[];
  coProducts: readonly CoProduct[];
}

/**
 * What goes into so much of the product, without allowance for scrap: per unit by the quantity, per
 * batch once for every batch begun.
 * @param made in the product's own unit
 */
export function netNeed(
  part: Pick<BillPart, 'quantity' | 'per'>,
  batch: string | null,
  made: Quantity
): Quantity {
  if (part.per === 'unit') return made.times(part.quantity);
  if (made.lte(0)) return quantity(0);
  return quantity(part.quantity).times(batch === null ? 1 : made.div(batch).ceil());
}

/**
 * What is planned for: the need and its scrap allowance on top of it (common practice of the trade:
 * need × (1 + per cent)).
 */
export function plannedNeed(
  part: Pick<BillPart, 'quantity' | 'per' | 'scrapPercent'>,
  batch: string | null,
  made: Quantity
): Quantity {
  const need = netNeed(part, batch, made);
  return part.scrapPercent === '0' ? need : need.plus(need.times(part.scrapPercent).div(100));
}

/**
 * The share of the inputs that goes to the main product, in per cent; what its co-products leave.
 */
export const mainShare = (bill: Pick<Bill, 'coProducts'>): Quantity =>
  bill.coProducts.reduce((left, co) => left.minus(co.share), quantity(100));

export interface BillFault {
  code: 'quantity.mismatch' | 'mark.duplicate';
  path: string;
  number: string;
  message: string;
}

/**
 * What is wrong with the lines of a bill by themselves, as sentences with the place they belong to;
 * products are checked by who knows them.
 */
export function billFaults(
  bill: Pick<Bill, 'product' | 'batch' | 'parts' | 'coProducts'> & { addedCost?: string | null }
): BillFault[] {
  const faults: BillFault[] = [];
  const seen = new Map<string, number>();
  const key = (code: string) => code.trim().toUpperCase();
  const batch = bill.batch === null ? null : parseQuantity(bill.batch);
  if (bill.batch !== null && (batch === null || batch.lte(0)))
    faults.push({
      code: 'quantity.mismatch',
      path: 'batch',
      number: bill.product,
      message: `“${bill.batch}” is no batch size above zero. Leave it empty where the whole order is one batch.`
    });
  const added = bill.addedCost ? parseQuantity(bill.addedCost) : null;
  if (bill.addedCost && (added === null || added.lt(0)))
    faults.push({
      code: 'quantity.mismatch',
      path: 'addedCost',
      number: bill.product,
      message: `“${bill.addedCost}” is no cost. Give a number from 0 up, or leave it empty where making it adds nothing.`
    });
  bill.parts.forEach((part, index) => {
    const path = `parts[${index}]`;
    const say = (message: string, code: BillFault['code'] = 'quantity.mismatch') =>
      faults.push({ code, path, number: part.product, message });
    const amount = parseQuantity(part.quantity),
      scrap = parseQuantity(part.scrapPercent);
    if (amount === null || amount.lte(0))
      say(`“${part.quantity}” is no quantity of ${part.product} above zero.`);
    if (scrap === null || scrap.lt(0) || scrap.gt(100))
      say(`“${part.scrapPercent}” is no scrap allowance from 0 to 100 per cent.`);
    const before = seen.get(key(part.product));
    if (before !== undefined)
      say(
        `${part.product} stands on line ${before + 1} already. Put the two quantities together, with a position for each.`,
        'mark.duplicate'
      );
    seen.set(key(part.product), index);
    if (
      part.positions.length > 0 &&
      part.per === 'unit' &&
      amount &&
      !amount.eq(part.positions.length)
    )
      say(
        `${part.product} has ${part.positions.length} position${part.positions.length === 1 ? '' : 's'} and ${part.quantity} of it go in. Name one for each.`
      );
    if (new Set(part.positions.map(key)).size < part.positions.length)
      say(
        `Two positions of ${part.product} have the same name. Name them apart, such as left and right.`,
        'mark.duplicate'
      );
    if (part.positions.length > 0 && part.follow !== 'unit')
      say(`Positions of ${part.product} can only be told apart where it is followed per unit.`);
    const others = part.alternates.map(key);
    if (new Set(others).size < others.length || others.includes(key(part.product)))
      say(`An alternate of ${part.product} stands twice. Take one out.`, 'mark.duplicate');
  });
  for (const [index, part] of bill.parts.entries()) {
    const clash = part.alternates.find(
      (other) => seen.has(key(other)) && seen.get(key(other)) !== index
    );
    if (clash)
      faults.push({
        code: 'quantity.mismatch',
        path: `parts[${index}]`,
        number: part.product,
        message: `${clash} is an alternate of ${part.product} and a line of its own. It could not be told which of the two it was: take one out.`
      });
  }
  const shares = bill.coProducts.map((co) => parseQuantity(co.share));
  bill.coProducts.forEach((co, index) => {
    const amount = parseQuantity(co.quantity),
      share = shares[index];
    if (amount === null || amount.lte(0))
      faults.push({
        code: 'quantity.mismatch',
        path: `coProducts[${index}]`,
        number: co.product,
        message: `“${co.quantity}” is no quantity of ${co.product} above zero.`
      });
    if (!share || share.lte(0) || share.gte(100))
      faults.push({
        code: 'quantity.mismatch',
        path: `coProducts[${index}]`,
        number: co.product,
        message: `“${co.share}” is no share between 0 and 100 per cent. It says how much of what goes in ends up in ${co.product}.`
      });
    if (
      key(co.product) === key(bill.product) ||
      bill.coProducts.findIndex((other) => key(other.product) === key(co.product)) !== index
    )
      faults.push({
        code: 'quantity.mismatch',
        path: `coProducts[${index}]`,
        number: co.product,
        message: `${co.product} is made twice. Take one out.`
      });
  });
  if (faults.length === 0 && bill.coProducts.length > 0 && mainShare(bill).lte(0))
    faults.push({
      code: 'quantity.mismatch',
      path: 'coProducts',
      number: bill.product,
      message: `The co-products take all that goes in and leave nothing for ${bill.product}. Lower their shares.`
    });
  return faults;
}

import { hasSerials, type Asked, type Checkpoint } from '../catalogue/plan.ts';
import { identify, type Identity } from '../ledger/identity.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import type { ReceiptLine, ReceivedMark } from '../ledger/request.ts';
import type { KnownProduct } from '../ledger/snapshot.ts';
import { shown } from '../numbers/number.ts';
import { formatQuantity, ONE, type Quantity } from '../quantity/quantity.ts';
import { sumOf, type ReceivedRow, type ReceivingSheet } from './received-row.ts';

/** A line of a receipt whose product is known; `asked` is null where its quantity is no quantity. */
export interface ReceivedLine {
  product: KnownProduct;
  line: ReceiptLine;
  index: number;
  asked: Quantity | null;
  path: string;
}

/**
 * The rows of a line: what was given, one for what has no number, and what is left where numbers
 * may come later.
 * Faults: mark.missing, number.malformed, quantity.mismatch, quantity.not-whole.
 */
export function readLine(sheet: ReceivingSheet, of: ReceivedLine): ReceivedRow[] {
  const named = namedMarks(sheet, of);
  if (named === null) return [];
  const good = named.flatMap((mark, at) => readRow(sheet, of, mark, at, named.length) ?? []);
  if (of.asked === null || good.length < named.length) return good;
  const rest = restOf(sheet, of, good, of.asked);
  if (rest) return [...good, rest];
  if (!sumOf(good).eq(of.asked)) tellMismatch(sheet, of, good, of.asked);
  return good;
}

/**
 * Where its plan is asked: at receipt; for what lay here before and takes its number only where it
 * is made, there.
 */
const checkpointOf = ({ coming }: ReceivingSheet, { plan }: KnownProduct): Checkpoint =>
  coming === 'opening' && plan.asks.receive === 'never' ? 'output' : 'receive';

const askedOf = (sheet: ReceivingSheet, product: KnownProduct): Asked =>
  product.plan.asks[checkpointOf(sheet, product)];

/** What was given, or one row for what has no number here; null after a fault. */
function namedMarks(sheet: ReceivingSheet, of: ReceivedLine): ReceivedMark[] | null {
  const { product, line, asked: amount, path } = of;
  const { identity } = product.plan;
  const asked = askedOf(sheet, product);
  const given = line.marks ?? [];
  if (given.length > 0) return given;
  if (identity === 'none') return [{}];
  if (asked !== 'always' && identity !== 'serial-in-lot') return [{}];
  const lot = identity === 'lot';
  const how = amount && !lot ? `${formatQuantity(amount)} of them` : 'it';
  const message = `${product.code} ${product.name} needs ${lot ? 'a lot' : 'serials'} here. Type, scan or paste ${how}.`;
  const at = `${path}.marks`;
  if (identity === 'serial-in-lot') sheet.faults.add('mark.missing', at, message);
  else if (sheet.faults.answer(product.plan, 'number missing', at, message)) return [{}];
  return null;
}

function readRow(
  sheet: ReceivingSheet,
  of: ReceivedLine,
  mark: ReceivedMark,
  at: number,
  rowsOfLine: number
): ReceivedRow | null {
  const { product, index } = of;
  const path = product.marking === 'none' ? of.path : `${of.path}.marks[${at}]`;
  const identity = identify(product, mark, checkpointOf(sheet, product), path, sheet.faults);
  if (!identity) return null;
  const quantity = rowQuantity(sheet, of, identity, mark, rowsOfLine, path);
  return quantity && { mark, identity, quantity, path, line: index, at, rest: false, ref: null };
}

function rowQuantity(
  { faults }: ReceivingSheet,
  { product, line, asked }: ReceivedLine,
  identity: Identity,
  mark: ReceivedMark,
  rowsOfLine: number,
  path: string
): Quantity | null {
  if (identity.kind === 'serial') {
    if (mark.quantity === undefined) return ONE;
    return serialQuantity(product, mark.serial ?? '', mark.quantity, path, faults);
  }
  if (mark.quantity !== undefined && mark.quantity.trim() !== '' && product.marking !== 'none')
    return lineQuantity(product, mark.quantity, path, faults, line.unit);
  if (rowsOfLine === 1) return asked;
  const lot = shown(mark.lot ?? '');
  const what = identity.kind === 'lot' ? `Lot ${lot}` : `This row of ${product.code}`;
  const message = `${what} has no quantity. Say how much of ${product.code} it holds.`;
  faults.add('quantity.mismatch', path, message, lot);
  return null;
}

/**
 * What is left of a line whose numbers may come later: kept by quantity, within the one lot its
 * rows name.
 */
function restOf(
  sheet: ReceivingSheet,
  { product, path }: ReceivedLine,
  good: readonly ReceivedRow[],
  asked: Quantity
): ReceivedRow | null {
  const open = asked.minus(sumOf(good));
  const { plan } = product;
  if (open.lte(0) || plan.identity === 'none' || askedOf(sheet, product) === 'always') return null;
  const identity = identityOfRest(product, good);
  if (identity === null) return null;
  const line = good[0]?.line ?? 0;
  return { mark: {}, identity, quantity: open, path, line, at: -1, rest: true, ref: null };
}

function identityOfRest(product: KnownProduct, good: readonly ReceivedRow[]): Identity | null {
  if (product.plan.identity !== 'serial-in-lot') return { kind: 'bulk', number: '', lot: null };
  const lotOf = ({ identity }: ReceivedRow): string =>
    identity.lot ?? (identity.kind === 'lot' ? identity.number : '');
  const lots = new Set(good.map(lotOf));
  return lots.size === 1 ? { kind: 'lot', number: [...lots][0]!, lot: null } : null;
}

function tellMismatch(
  { faults }: ReceivingSheet,
  { product, path }: ReceivedLine,
  good: readonly ReceivedRow[],
  asked: Quantity
): void {
  const sum = formatQuantity(sumOf(good));
  const serials = `${sum} serial${sum === '1' ? ' is' : 's are'} given`;
  const what = hasSerials(product.plan.identity) ? serials : `its lots add up to ${sum}`;
  const arrives = `${product.code} arrives with ${formatQuantity(asked)} ${product.unit}`;
  const message = `${arrives} but ${what}. Make the two the same.`;
  faults.add('quantity.mismatch', `${path}.quantity`, message, product.code);
}

import { decided, emptyRows, type Decision } from '../../ledger/booking.ts';
import { namedOrLoose } from '../../ledger/identity.ts';
import { findMark, findProduct, nameOf } from '../../ledger/lookup.ts';
import {
  onePerLine,
  type Revaluation,
  type RevaluedLine,
  type Wants
} from '../../ledger/request.ts';
import type { KnownEvent, KnownMark, KnownProduct, Snapshot } from '../../ledger/snapshot.ts';
import { Faults } from '../../faults/fault.ts';
import { shown } from '../../numbers/number.ts';
import { readUnitCost } from '../unit-cost.ts';
import { broughtBy, COME_IN, type Revaluing } from './revaluing.ts';
import { spreadLanded } from './spread-landed.ts';

export const revaluationWants = (request: Revaluation): Wants => ({
  products: request.lines.map((line) => line.product),
  places: [],
  partner: null,
  order: null,
  marks: onePerLine(request.lines),
  draws: true,
  ...(request.receipt === undefined ? {} : { event: request.receipt })
});

/**
 * Decides what marks cost, told otherwise: what came in by a receipt, with freight and the like
 * spread over it, or what a mark is worth from now on. Nothing moves; what was made of it costs
 * otherwise, too.
 * Faults: product.unknown, mark.unknown, mark.duplicate, quantity.mismatch, cost.missing.
 */
export function decideRevaluation(snapshot: Snapshot, request: Revaluation): Decision {
  const revaluing: Revaluing = {
    snapshot,
    faults: new Faults(),
    rows: emptyRows(),
    told: new Map()
  };
  const { faults, rows, told } = revaluing;
  const receipt = request.receipt === undefined ? null : receiptOf(revaluing, request.receipt);
  request.lines.forEach((line, index) => takeLine(revaluing, line, receipt, `lines[${index}]`));
  if (request.landed && receipt) spreadLanded(revaluing, receipt, request.landed);
  else if (request.landed && request.receipt === undefined) {
    const message =
      'Freight and the like are spread over a receipt. Name the event the goods came in by.';
    faults.add('cost.missing', 'receipt', message);
  }
  const ofEvent = receipt?.id ?? null;
  for (const [mark, unitCost] of told) rows.told.push({ mark, ofEvent, unitCost });
  rows.answer.push(...told.keys());
  if (told.size === 0 && faults.list.length === 0)
    faults.add('cost.missing', 'lines', 'Say what costs otherwise, and what one of it costs.');
  return decided(rows, faults, snapshot);
}

function receiptOf({ snapshot, faults }: Revaluing, id: number): KnownEvent | null {
  const { event } = snapshot;
  if (event && COME_IN.has(event.kind)) return event;
  const message = event
    ? `Event ${id} (${event.kind} ${event.document}) brought nothing in from outside. Name a receipt, opening stock or a gain, or leave the event out to say what goods are worth from now on.`
    : `There is no event ${id}. Check the number of the receipt’s event.`;
  faults.add('mark.unknown', 'receipt', message, `${id}`);
  return null;
}

function takeLine(
  { snapshot, faults, told }: Revaluing,
  line: RevaluedLine,
  receipt: KnownEvent | null,
  path: string
): void {
  const product = findProduct(snapshot, line.product, `${path}.product`, faults);
  const mark = product && findNamed(snapshot, product, line, path, faults);
  if (!product || !mark) return;
  const name = nameOf(mark, product);
  const number = mark.number ?? product.code;
  const cost = readUnitCost(product, line.unitCost, `${path}.unitCost`, faults);
  if (cost === null && !line.unitCost.trim()) {
    const message = `Say what one ${product.unit} of ${name} costs.`;
    faults.add('cost.missing', `${path}.unitCost`, message, number);
  }
  if (told.has(mark.id)) {
    const message = `${name} of ${product.code} stands on another line already. Remove one of the two.`;
    faults.add('mark.duplicate', path, message, number);
  }
  if (receipt && !broughtBy(receipt).has(mark.id)) {
    const message = `${name} of ${product.code} did not come in by event ${receipt.id} (${receipt.kind} ${receipt.document}), or that was taken back. Check the number.`;
    faults.add('mark.unknown', path, message, number);
  }
  if (cost !== null) told.set(mark.id, cost);
}

function findNamed(
  snapshot: Snapshot,
  product: KnownProduct,
  line: RevaluedLine,
  path: string,
  faults: Faults
): KnownMark | null {
  const named = namedOrLoose(product, line, path, faults);
  if (!named) return null;
  const mark = findMark(snapshot, product, named.kind, named.number);
  if (mark) return mark;
  const number = named.number || product.code;
  const message = `There is no ${named.kind} ${shown(number)} of ${product.code} ${product.name}. Check the number.`;
  faults.add('mark.unknown', path, message, number);
  return null;
}

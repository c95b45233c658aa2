import { isDay } from '../calendar/day.ts';
import { sayDay } from '../calendar/say-day.ts';
import { factKey, takeFacts } from '../catalogue/facts.ts';
import type { MarkRef } from '../ledger/booking.ts';
import type { ChangedField } from '../ledger/changed-field.ts';
import { nameOf, saidOnHand } from '../ledger/lookup.ts';
import { fitsSupplierNumber } from '../ledger/supplier-number.ts';
import type { ReceivedMark } from '../ledger/request.ts';
import type { KnownMark, KnownProduct } from '../ledger/snapshot.ts';
import { shown } from '../numbers/number.ts';
import { sayRow, type ReceivedRow, type ReceivingSheet } from './received-row.ts';

/** What a delivery may say of a lot that a lot has only once, and what it is called. */
const ONCE = [
  ['expires', 'expires_on', 'expiry'],
  ['made', 'made_on', 'day it was made'],
  ['retest', 'retest_on', 'retest date'],
  ['supplierNumber', 'supplier_number', 'supplier number']
] as const satisfies readonly (readonly [keyof ReceivedMark, ChangedField, string])[];
type Once = (typeof ONCE)[number];

/**
 * A further delivery of a lot that is known. What it says of the lot for the first time is kept;
 * what contradicts it is a fault; its facts are judged by the plan as those of a new lot, and a
 * fact measured anew stands beside the old value, which stays in the lot's history.
 * Faults: mark.duplicate, date.missing, number.malformed, fact.missing, mark.off-spec.
 * @returns the lot's id; null after a fault
 */
export function addToKnown(
  sheet: ReceivingSheet,
  product: KnownProduct,
  lot: KnownMark,
  row: ReceivedRow
): MarkRef | null {
  const agrees = ONCE.map((field) => takeOnce(sheet, product, lot, row, field));
  const measured = takeMeasured(sheet, product, lot, row);
  if (!measured || agrees.includes(false)) return null;
  sheet.faults.note(row.path, saidOfMore(sheet, product, lot), lot.number!);
  return lot.id;
}

/** @returns whether what is given can stand; it is kept where the lot did not say it yet */
function takeOnce(
  { rows, faults }: ReceivingSheet,
  product: KnownProduct,
  lot: KnownMark,
  { mark, path }: ReceivedRow,
  [given, field, says]: Once
): boolean {
  const text = mark[given]?.trim();
  if (!text) return true;
  if (given === 'supplierNumber' && !fitsSupplierNumber(text, path, faults)) return false;
  if (given !== 'supplierNumber' && !isDay(text)) {
    const message = `“${shown(text)}” is no date. Give the ${says} as year-month-day.`;
    faults.add('date.missing', path, message, shown(text));
    return false;
  }
  const known = lot[given];
  if (known === text) return true;
  // A lot known without an expiry may have been used for long: that is amended, not slipped in.
  if (known === null && given !== 'expires') {
    rows.changes.push({ mark: lot.id, field, from: null, to: text });
    return true;
  }
  const name = nameOf(lot, product);
  faults.add('mark.duplicate', path, contradiction(name, given, says, known, text), lot.number!);
  return false;
}

function contradiction(
  name: string,
  given: Once[0],
  says: string,
  known: string | null,
  text: string
): string {
  if (given === 'supplierNumber')
    return `${name} is known with the ${says} ${known}, and here ${shown(text)} is given. Give the same number, another lot, or amend the lot first.`;
  if (given === 'expires') {
    const knownTo = known ? `to expire on ${sayDay(known)}` : 'without an expiry';
    return `${name} is known ${knownTo}, and here ${sayDay(text)} is given. Give the same date, another lot, or amend the lot first.`;
  }
  return `${name} is known with the ${says} ${sayDay(known!)}, and here ${sayDay(text)} is given. Give the same date, another lot, or amend the lot first.`;
}

/** Facts of this delivery. One the lot has already need not be given again. */
function takeMeasured(
  { rows, faults }: ReceivingSheet,
  product: KnownProduct,
  lot: KnownMark,
  { mark, path }: ReceivedRow
): boolean {
  const kept = new Map(Object.entries(lot.facts).map(([name, fact]) => [factKey(name), fact]));
  const asked = product.plan.facts.map((fact) =>
    kept.has(factKey(fact.name)) ? { ...fact, required: false } : fact
  );
  const plan = { ...product.plan, facts: asked };
  const facts = takeFacts(plan, product.code, mark.facts, path, lot.number ?? undefined, faults);
  if (facts === null) return false;
  for (const [fact, { value }] of Object.entries(facts)) {
    const from = kept.get(factKey(fact))?.value ?? null;
    if (from !== value) rows.changes.push({ mark: lot.id, field: 'fact', fact, from, to: value });
  }
  return true;
}

function saidOfMore({ snapshot }: ReceivingSheet, product: KnownProduct, lot: KnownMark): string {
  const name = nameOf(lot, product);
  if (lot.state !== 'usable') return `${name} is ${lot.state}; what is added to it will be too.`;
  const expires = lot.expires ? `, expires ${sayDay(lot.expires)}` : '';
  return `Adds to ${name}: ${saidOnHand(snapshot, lot, product)}${expires}.`;
}

/**
 * Whether a later row of the same lot says nothing else of it than the earlier one.
 * Faults: mark.duplicate.
 */
export function sameAsBefore(
  sheet: ReceivingSheet,
  row: ReceivedRow,
  before: ReceivedRow
): boolean {
  const other = ONCE.find(([given]) => {
    const text = row.mark[given]?.trim();
    return text && text !== before.mark[given]?.trim();
  });
  const fact = Object.entries(row.mark.facts ?? {}).find(
    ([name, text]) => text.trim() !== '' && text.trim() !== before.mark.facts?.[name]?.trim()
  );
  if (!other && !fact) return true;
  const what = other?.[2] ?? fact![0];
  const message = `Lot ${row.identity.number} stands in ${sayRow(sheet, before)} of this sheet with another ${what}. Give the same in both, or leave it out here.`;
  sheet.faults.add('mark.duplicate', row.path, message, row.identity.number);
  return false;
}

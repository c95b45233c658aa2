import { takeDates } from '../catalogue/dates.ts';
import { factKey, takeFacts, type FactValues } from '../catalogue/facts.ts';
import type { Faults } from '../faults/fault.ts';
import type { Born } from './birth.ts';
import type { MarkRef, Rows } from './booking.ts';
import type { ChangedField } from './changed-field.ts';
import { nameOf } from './lookup.ts';
import type { KnownMark, Snapshot } from './snapshot.ts';
import { fitsSupplierNumber } from './supplier-number.ts';

/** Whether a number that is known may be given to new goods: what brought it in was taken back. */
export const mayBeBornAgain = (snapshot: Snapshot, mark: KnownMark): boolean =>
  mark.unmade === true && (snapshot.stock.get(mark.id)?.size ?? 0) === 0;

/**
 * A number whose coming was taken back comes to be again, with what is said of it now: what it said
 * before stays in its history.
 * Faults: those of its dates and facts, mark.duplicate where it is known within another lot.
 * @returns the mark's id; null after a fault
 */
export function bornAgain(
  snapshot: Snapshot,
  rows: Rows,
  faults: Faults,
  mark: KnownMark,
  born: Born
): MarkRef | null {
  const { product, path } = born;
  const number = mark.number ?? undefined;
  if (!sameLot(snapshot, faults, mark, born)) return null;
  const birth = { ...born, day: snapshot.day };
  const dates = takeDates(product.plan, product.code, born.with, birth, path, number, faults);
  const facts = takeFacts(product.plan, product.code, born.with.facts, path, number, faults);
  const supplierNumber = born.with.supplierNumber?.trim() || null;
  if (supplierNumber !== null && !fitsSupplierNumber(supplierNumber, path, faults)) return null;
  if (!dates || !facts) return null;
  const change = (field: ChangedField, from: string | null, to: string | null) => {
    if (from !== to) rows.changes.push({ mark: mark.id, field, from, to });
  };
  change('made_on', mark.made, dates.made);
  change('expires_on', mark.expires, dates.expires);
  change('retest_on', mark.retest, dates.retest);
  change('supplier_number', mark.supplierNumber, supplierNumber);
  changeFacts(rows, mark, facts);
  return mark.id;
}

function changeFacts(rows: Rows, mark: KnownMark, facts: FactValues): void {
  const given = new Map(Object.entries(facts).map(([name, fact]) => [factKey(name), fact.value]));
  const known = new Map(Object.keys(mark.facts).map((name) => [factKey(name), name]));
  const names = [
    ...known.values(),
    ...Object.keys(facts).filter((one) => !known.has(factKey(one)))
  ];
  for (const fact of names) {
    const from = mark.facts[fact]?.value ?? null;
    const to = given.get(factKey(fact)) ?? null;
    if (from !== to) rows.changes.push({ mark: mark.id, field: 'fact', fact, from, to });
  }
}

function sameLot(
  snapshot: Snapshot,
  faults: Faults,
  mark: KnownMark,
  { product, identity, path }: Born
): boolean {
  const lot = mark.lotId === null ? null : snapshot.marksById.get(mark.lotId);
  const known = lot?.number ?? null;
  if (known?.toUpperCase() === identity.lot?.trim().toUpperCase()) return true;
  const within = known === null ? 'on its own' : `within lot ${known}`;
  const message = `${nameOf(mark, product)} was known ${within} before its coming was taken back. Give it so again, or give another number.`;
  faults.add('mark.duplicate', path, message, mark.number ?? product.code);
  return false;
}

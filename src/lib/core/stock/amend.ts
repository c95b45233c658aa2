import { isDay } from '../calendar/day.ts';
import { sayDay } from '../calendar/say-day.ts';
import { outsideLimits, readFact, factKey } from '../catalogue/facts.ts';
import { readNumber, shown } from '../numbers/number.ts';
import { decided, emptyRows, type Decision } from '../ledger/booking.ts';
import type { ChangedField } from '../ledger/changed-field.ts';
import { Faults } from '../faults/fault.ts';
import { markNamed } from '../ledger/identity.ts';
import { fitsSupplierNumber } from '../ledger/supplier-number.ts';
import { findMark, findProduct, nameOf } from '../ledger/lookup.ts';
import type { Amendment, AmendLine, Wants } from '../ledger/request.ts';
import { markKey, type KnownMark, type KnownProduct, type Snapshot } from '../ledger/snapshot.ts';

export const amendmentWants = (request: Amendment): Wants => ({
  products: request.lines.map((line) => line.product),
  places: [],
  partner: null,
  order: null,
  draws: true,
  marks: request.lines.map((line) => ({
    product: line.product,
    marks: [
      line,
      ...(line.to.number
        ? [line.serial?.trim() ? { serial: line.to.number } : { lot: line.to.number }]
        : [])
    ]
  }))
});

const DATES = [
  ['made', 'made_on', 'day it was made'],
  ['expires', 'expires_on', 'expiry'],
  ['retest', 'retest_on', 'retest date']
] as const;

/**
 * Decides an amendment: what is wrong on a mark is put right, the old value is kept and still finds
 * it. Nothing moves.
 * Faults: mark.unknown, mark.missing, mark.duplicate, number.malformed, date.missing, fact.missing,
 * product.unknown.
 */
export function decideAmendment(snapshot: Snapshot, request: Amendment): Decision {
  const faults = new Faults();
  const rows = emptyRows();
  const taken = new Set<string>();
  request.lines.forEach((line, index) => {
    const path = `lines[${index}]`;
    const product = findProduct(snapshot, line.product, `${path}.product`, faults);
    const identity = product && markNamed(product, line, path, faults);
    if (!product || !identity) return;
    const mark = findMark(snapshot, product, identity.kind, identity.number);
    if (!mark) {
      const now = snapshot.elsewhere.get(identity.number.toUpperCase())?.now;
      faults.add(
        'mark.unknown',
        path,
        now
          ? `${identity.number} was amended before and is ${now} now. Give that number.`
          : `There is no ${identity.kind} ${identity.number} of ${product.code} ${product.name}. Check the number.`,
        identity.number
      );
      return;
    }
    const before = rows.changes.length;
    const change = (field: ChangedField, from: string | null, to: string | null, fact?: string) => {
      if (from !== to)
        rows.changes.push({
          mark: mark.id,
          field,
          from,
          to,
          ...(fact === undefined ? {} : { fact })
        });
    };
    amendNumber(product, mark, line, `${path}.to.number`, change);
    for (const [key, field, says] of DATES) {
      const to = line.to[key];
      if (to === undefined) continue;
      const day = to?.trim() || null;
      if (day !== null && !isDay(day))
        faults.add(
          'date.missing',
          `${path}.to.${key}`,
          `“${shown(day)}” is no date. Give the ${says} as year-month-day.`,
          shown(day)
        );
      else if (key !== 'made' || mayBeMadeOn(mark, product, day, path))
        change(field, mark[key], day);
    }
    if (line.to.supplierNumber !== undefined) {
      const to = line.to.supplierNumber?.trim() || null;
      if (to === null || fitsSupplierNumber(to, `${path}.to.supplierNumber`, faults))
        change('supplier_number', mark.supplierNumber, to);
    }
    amendFacts(product, mark, line, path, change);
    if (rows.changes.length === before && faults.list.length === 0)
      faults.add(
        'quantity.mismatch',
        path,
        `${nameOf(mark, product)} stands like that already. Say what is to be different.`,
        mark.number ?? undefined
      );
    rows.answer.push(mark.id);
  });
  return decided(rows, faults, snapshot);

  type Change = (
    field: ChangedField,
    from: string | null,
    to: string | null,
    fact?: string
  ) => void;

  function amendNumber(
    product: KnownProduct,
    mark: KnownMark,
    line: AmendLine,
    path: string,
    change: Change
  ): void {
    if (line.to.number === undefined) return;
    const reading = readNumber(line.to.number);
    if (!reading.ok) {
      faults.add(
        'number.malformed',
        path,
        `${shown(line.to.number)} cannot be a number: ${reading.why}.`,
        shown(line.to.number)
      );
      return;
    }
    const key = markKey(product.id, mark.kind, reading.number);
    const other = findMark(snapshot, product, mark.kind, reading.number);
    if ((other && other.id !== mark.id) || taken.has(key)) {
      faults.add(
        'mark.duplicate',
        path,
        `${product.code} has another ${mark.kind} ${reading.number}${other ? `, since ${sayDay(other.bornOn)}` : ''}. Two marks cannot have one number: amend that one first, or give another.`,
        reading.number
      );
      return;
    }
    taken.add(key);
    change('number', mark.number, reading.number);
  }

  /** What came, or was made here, on a day was not made after it. */
  function mayBeMadeOn(
    mark: KnownMark,
    product: KnownProduct,
    day: string | null,
    path: string
  ): boolean {
    if (day === null || day <= mark.bornOn) return true;
    faults.add(
      'date.missing',
      `${path}.to.made`,
      `${nameOf(mark, product)} of ${product.code} is here since ${sayDay(mark.bornOn)} and cannot have been made on ${sayDay(day)}. Check the day it was made.`,
      mark.number ?? undefined
    );
    return false;
  }

  function amendFacts(
    product: KnownProduct,
    mark: KnownMark,
    line: AmendLine,
    path: string,
    change: Change
  ): void {
    for (const [name, text] of Object.entries(line.to.facts ?? {})) {
      const asked = product.plan.facts.find((fact) => factKey(fact.name) === factKey(name));
      const kept = Object.keys(mark.facts).find((fact) => factKey(fact) === factKey(name));
      if (!asked && kept === undefined) {
        faults.add(
          'fact.missing',
          `${path}.to.facts`,
          `${product.code} keeps no fact “${shown(name)}”. Check its name.`,
          shown(name)
        );
        continue;
      }
      const given = text?.trim() || null;
      const reading =
        asked && given !== null ? readFact(asked, given) : ({ ok: true, value: given } as const);
      if (!reading.ok) {
        faults.add(
          'fact.missing',
          `${path}.to.facts`,
          `“${shown(given!)}” cannot be kept as ${name}: ${reading.why}.`,
          shown(given!)
        );
        continue;
      }
      const outside = asked && reading.value !== null ? outsideLimits(asked, reading.value) : null;
      if (outside !== null)
        faults.note(
          `${path}.to.facts`,
          `${name} ${reading.value} is ${outside}.`,
          mark.number ?? undefined
        );
      const fact = kept ?? asked!.name;
      change('fact', mark.facts[fact]?.value ?? null, reading.value, fact);
    }
  }
}

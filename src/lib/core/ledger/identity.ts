import type { Checkpoint } from '../catalogue/plan.ts';
import { readNumber, shown } from '../numbers/number.ts';
import type { Faults } from '../faults/fault.ts';
import type { MarkNamed } from './request.ts';
import type { KnownProduct } from './snapshot.ts';
import type { MarkKind } from '../catalogue/marking.ts';

/** Which mark a row means: its kind and cleaned numbers. `number` is '' for the bulk mark. */
export interface Identity {
  kind: MarkKind;
  number: string;
  lot: string | null;
}

const BULK: Identity = { kind: 'bulk', number: '', lot: null };
const WHEN: Record<Checkpoint, string> = {
  receive: 'when it is received',
  'put away': 'when it is put away',
  move: 'when it is moved',
  transfer: 'when it is transferred',
  issue: 'when it is used',
  output: 'when it is made',
  ship: 'when it is shipped',
  return: 'when it comes back',
  gain: 'at a gain',
  loss: 'at a loss',
  count: 'when it is counted'
};
/** Where a mark is born its lot must be named too; later the serial alone will do. */
const BORN_AT: ReadonlySet<Checkpoint> = new Set(['receive', 'output']);

/**
 * Decides which mark of a product a row names, by what its plan asks at this checkpoint. Where the
 * plan lets the number come later and none is given, the row means the stock that has none: the
 * bulk mark, or for serial within lot the lot itself.
 * @returns null after adding `mark.missing` or `number.malformed` to the faults
 */
export function identify(
  product: KnownProduct,
  named: MarkNamed,
  checkpoint: Checkpoint,
  path: string,
  faults: Faults
): Identity | null {
  // By far the most rows of a long sheet: a serial alone, where one is asked. The rest makes its
  // sentences, which costs ten thousand times over.
  if (
    product.plan.identity === 'serial' &&
    named.lot === undefined &&
    named.serial !== undefined &&
    product.plan.asks[checkpoint] !== 'never'
  ) {
    const reading = readNumber(named.serial);
    if (reading.ok) return { kind: 'serial', number: reading.number, lot: null };
  }
  return identifyAny(product, named, checkpoint, path, faults);
}

function identifyAny(
  product: KnownProduct,
  named: MarkNamed,
  checkpoint: Checkpoint,
  path: string,
  faults: Faults
): Identity | null {
  const lot = given(named.lot),
    serial = given(named.serial);
  const { identity } = product.plan;
  const asked = product.plan.asks[checkpoint];
  if (identity === 'none')
    return lot === null && serial === null
      ? BULK
      : notTaken(lot ?? serial!, `${product.code} is kept by quantity only and has no numbers.`);
  if (identity === 'lot') {
    if (serial !== null)
      return notTaken(serial, `${product.code} is marked by lot, not by serial.`);
    if (lot === null) return without('a lot', BULK);
    return asked === 'never' ? notTaken(lot, notNow('lot')) : clean('lot', lot, null);
  }
  if (identity === 'serial' && lot !== null)
    return notTaken(lot, `${product.code} is marked by serial alone; it has no lots.`);
  if (serial !== null && asked === 'never') return notTaken(serial, notNow('serial'));
  if (serial === null) {
    if (identity === 'serial') return without('a serial', BULK);
    if (asked === 'always' && lot === null)
      return without(BORN_AT.has(checkpoint) ? 'a serial and its lot' : 'a serial', null);
    if (lot === null) return missing('the lot');
    const reading = readNumber(lot);
    return reading.ok
      ? without('a serial', { kind: 'lot', number: reading.number, lot: null })
      : malformed('lot', lot, reading.why);
  }
  if (identity === 'serial') return clean('serial', serial, null);
  if (lot === null)
    return BORN_AT.has(checkpoint) ? missing('the lot') : clean('serial', serial, null);
  const reading = readNumber(lot);
  return reading.ok ? clean('serial', serial, reading.number) : malformed('lot', lot, reading.why);

  /**
   * The stock without number, where the plan does not insist on one or lets a booking go on
   * without.
   */
  function without(what: string, unnumbered: Identity | null): Identity | null {
    if (asked !== 'always' && unnumbered) return unnumbered;
    const softened = faults.answer(
      product.plan,
      'number missing',
      path,
      `${product.code} ${product.name} needs ${what} here. Type or scan it.`
    );
    return softened ? unnumbered : null;
  }
  function missing(what: string): null {
    faults.add(
      'mark.missing',
      path,
      `${product.code} ${product.name} needs ${what} here. Type or scan it.`
    );
    return null;
  }
  function notNow(kind: string): string {
    const later = (Object.keys(WHEN) as Checkpoint[]).find(
      (one) => product.plan.asks[one] === 'always'
    );
    return `The plan of ${product.code} takes no ${kind} ${WHEN[checkpoint]}${later ? `, only ${WHEN[later]}` : ''}.`;
  }
  function notTaken(number: string, why: string): null {
    faults.add('number.malformed', path, `${why} Leave ${shown(number)} out.`, shown(number));
    return null;
  }
  function malformed(kind: string, text: string, why: string): null {
    faults.add(
      'number.malformed',
      path,
      `${kind === 'lot' ? 'Lot' : 'Serial'} ${shown(text)} cannot be used: ${why}.`,
      shown(text)
    );
    return null;
  }
  function clean(kind: 'lot' | 'serial', text: string, within: string | null): Identity | null {
    const reading = readNumber(text);
    return reading.ok
      ? { kind, number: reading.number, lot: within }
      : malformed(kind, text, reading.why);
  }
}

const given = (text: string | undefined): string | null =>
  text === undefined || text.trim() === '' ? null : text;

/**
 * Which mark is meant where no plan is asked, as for a hold or an amendment: the serial, or else
 * the lot.
 */
export function markNamed(
  product: KnownProduct,
  named: MarkNamed,
  path: string,
  faults: Faults
): Identity | null {
  const serial = given(named.serial),
    text = serial ?? given(named.lot);
  if (text === null) {
    faults.add(
      'mark.missing',
      path,
      `Say which ${product.plan.identity === 'lot' ? 'lot' : 'lot or serial'} of ${product.code} ${product.name} is meant.`
    );
    return null;
  }
  const kind = serial === null ? 'lot' : 'serial';
  const reading = readNumber(text);
  if (reading.ok) return { kind, number: reading.number, lot: null };
  faults.add(
    'number.malformed',
    path,
    `${kind === 'lot' ? 'Lot' : 'Serial'} ${shown(text)} cannot be used: ${reading.why}.`,
    shown(text)
  );
  return null;
}

/** The same, where what has no numbers is named by its product alone. */
export const namedOrLoose = (
  product: KnownProduct,
  line: MarkNamed,
  path: string,
  faults: Faults
): Identity | null =>
  line.serial || line.lot || product.plan.identity !== 'none'
    ? markNamed(product, line, path, faults)
    : BULK;

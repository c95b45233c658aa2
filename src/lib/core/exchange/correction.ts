import { formatQuantity, quantity, total, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { NamedMark } from './identifiers.ts';
import { toEpcis, type EpcisEvent, type LedgerEvent } from './write.ts';

/** What a reversal tells: which events were wrong, and what stands in their place. */
export interface Correction {
  wrong: EpcisEvent[];
  right: EpcisEvent[];
}

/**
 * A reversal as EPCIS events: what its event told until then, and what it would have told without
 * what is taken back. What is the same in both was not wrong. A reversal of all of it leaves
 * nothing in its place.
 * Source: EPCIS 2.0, section 7.4.1.4 (error declaration and corrective events).
 * @param idOf identifier of an event, by which two that tell the same are known
 */
export function correctionOf(
  reversal: LedgerEvent,
  marks: ReadonlyMap<number, NamedMark>,
  base: string,
  idOf: (event: EpcisEvent) => string
): Correction {
  const original = reversal.reverses;
  if (!original) return { wrong: [], right: [] };
  const before = toEpcis(remainder(original, reversal.earlier), marks, base);
  const after = toEpcis(remainder(original, [...reversal.earlier, reversal]), marks, base);
  const [was, is] = [new Set(before.map(idOf)), new Set(after.map(idOf))];
  return {
    wrong: before.filter((event) => !is.has(idOf(event))),
    right: after.filter((event) => !was.has(idOf(event)))
  };
}

/** An event as it would have been without what its reversals took back. */
export function remainder(event: LedgerEvent, reversals: readonly LedgerEvent[]): LedgerEvent {
  if (reversals.length === 0) return event;
  const all = [event, ...reversals];
  const lines = added(
    all.flatMap((one) => one.lines),
    ({ mark, place }) => `${mark} ${place}`
  );
  const gone = new Set(reversals.flatMap((one) => one.tookBack.transformations));
  const units = new Set(reversals.flatMap((one) => one.tookBack.units));
  const unchanged = new Set(reversals.flatMap((one) => one.changed));
  return {
    ...event,
    lines,
    transformations: transformationsLeft(event, lines, gone),
    packings: added(
      all.flatMap((one) => one.packings),
      ({ unit, mark, child }) => `${unit} ${mark ?? child}`
    ),
    fittings: fittingsLeft(all),
    units: event.units.filter((sscc) => !units.has(sscc)),
    changed: event.changed.filter((mark) => !unchanged.has(mark))
  };
}

/** Adds up by key; what comes to nothing is left out. */
function added<T extends { quantity: string }>(rows: readonly T[], keyOf: (row: T) => string): T[] {
  const sums = new Map<string, { row: T; sum: Quantity }>();
  for (const row of rows) {
    const before = sums.get(keyOf(row));
    const sum = (before?.sum ?? ZERO).plus(row.quantity);
    sums.set(keyOf(row), { row: before?.row ?? row, sum });
  }
  return [...sums.values()]
    .filter(({ sum }) => !sum.isZero())
    .map(({ row, sum }) => ({ ...row, quantity: formatQuantity(sum) }));
}

/**
 * Transformations that stand. One that made several together keeps those that are left, and what
 * went into it less what was given back for the others.
 */
function transformationsLeft(
  event: LedgerEvent,
  lines: LedgerEvent['lines'],
  gone: ReadonlySet<number>
): LedgerEvent['transformations'] {
  const standing = event.transformations.filter((one) => !gone.has(one.id));
  const left = new Set(lines.map((line) => line.mark));
  const given = givenBack(lines, standing);
  return standing.flatMap(({ id, inputs, outputs }) => {
    const made = outputs.filter(({ mark }) => left.has(mark));
    if (made.length === 0) return [];
    const used = inputs.flatMap(({ mark, quantity: amount }) => {
      const less = lesser(given.get(mark) ?? ZERO, quantity(amount));
      given.set(mark, (given.get(mark) ?? ZERO).minus(less));
      const rest = quantity(amount).minus(less);
      return rest.isZero() ? [] : [{ mark, quantity: formatQuantity(rest) }];
    });
    return [{ id, inputs: used, outputs: made }];
  });
}

/** How much more the standing transformations say they used than still left any place. */
function givenBack(
  lines: LedgerEvent['lines'],
  standing: LedgerEvent['transformations']
): Map<number, Quantity> {
  const given = new Map<number, Quantity>();
  for (const mark of new Set(standing.flatMap((one) => one.inputs.map((input) => input.mark)))) {
    const said = total(
      standing.flatMap(({ inputs }) =>
        inputs.filter((input) => input.mark === mark).map((input) => quantity(input.quantity))
      )
    );
    const made = total(
      standing.flatMap(({ outputs }) =>
        outputs.filter((output) => output.mark === mark).map((output) => quantity(output.quantity))
      )
    );
    const moved = total(
      lines.filter((line) => line.mark === mark).map((line) => quantity(line.quantity))
    );
    const more = said.minus(made).plus(moved);
    if (more.gt(0)) given.set(mark, more);
  }
  return given;
}

const lesser = (a: Quantity, b: Quantity): Quantity => (a.lt(b) ? a : b);

/** Parts that went in or came out, less what went the other way again. */
function fittingsLeft(all: readonly LedgerEvent[]): LedgerEvent['fittings'] {
  const signed = all
    .flatMap((one) => one.fittings)
    .map((row) => ({ ...row, quantity: row.put ? row.quantity : `-${row.quantity}` }));
  return added(signed, ({ host, mark }) => `${host} ${mark}`).map((row) => ({
    ...row,
    put: !row.quantity.startsWith('-'),
    quantity: row.quantity.replace('-', '')
  }));
}

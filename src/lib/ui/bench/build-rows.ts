import { firstExpiredFirst, type Candidate } from '../../core/allocation/fefo.ts';
import type { Marking } from '../../core/ledger/snapshot.ts';
import { formatQuantity, parseQuantity, quantity, total, ZERO, type Quantity } from '../../core/quantity/quantity.ts';
import { askedAt, givenIn } from '../../core/marking/ask.ts';
import type { MarkingPlan } from '../../core/marking/plan.ts';
import type { Column, Row } from './grid.ts';
import { columnOf } from './plan-column.ts';

export interface Component { product: string; name: string; unit: string; marking: Marking; quantity: string }

/** One thing to name for a unit: a serial position, or the lot a quantity is drawn from. */
export interface Slot { key: string; component: Component; label: string; perUnit: string; serial: boolean }

/**
 * What is to be named for each finished unit: a position per serial component, one lot per lot component.
 * Components kept by quantity only are drawn without a number.
 */
export function slotsOf(components: readonly Component[]): Slot[] {
  return components.flatMap((component): Slot[] => {
    if (component.marking === 'none') return [];
    if (component.marking === 'lot') return [{ key: component.product, component, label: `${component.product} lot`, perUnit: component.quantity, serial: false }];
    const positions = Math.max(1, Math.round(Number(component.quantity)));
    return Array.from({ length: positions }, (_, index) => ({ key: `${component.product} ${index + 1}`, component, label: positions > 1 ? `${component.product} ${index + 1}` : component.product, perUnit: '1', serial: true }));
  });
}

/** What the plan of the made product asks beside the number: dates that are entered, and facts. The day it is made is known. */
export function outputColumns(plan: MarkingPlan): Column[] {
  return askedAt(plan, 'output').flatMap((field): Column[] => {
    if (field.kind !== 'fact' && !(field.kind === 'date' && field.how === 'must')) return [];
    const column = columnOf(plan, field);
    return [{ ...column, inherit: field.kind === 'date' || column.choices !== undefined }];
  });
}

/** What a row says of the made mark beside its number, as the booking names it. */
const bornWith = (row: Row, asked: readonly Column[]): Record<string, unknown> => givenIn(row, asked.map((column) => column.key));

export const unitColumns = (product: string, marking: Marking, slots: readonly Slot[]): Column[] => [
  ...(marking === 'serial-in-lot' ? [{ key: 'lot', label: 'Lot', kind: 'number', inherit: true } as Column] : []),
  { key: 'serial', label: `${product} serial`, kind: 'number' },
  ...slots.map((slot): Column => ({ key: slot.key, label: slot.label, kind: 'number' }))
];

/** The first lot of each lot component that still has enough after the units above drew on it, first expired first. */
export function lotsForNextUnit(slots: readonly Slot[], rows: readonly Row[], available: Readonly<Record<string, readonly Candidate[]>>, today: string): Row {
  const row: Row = {};
  for (const slot of slots) {
    if (slot.serial) continue;
    const drawn = new Map<string, Quantity>();
    for (const above of rows) {
      const lot = above[slot.key]?.trim().toUpperCase();
      if (lot) drawn.set(lot, (drawn.get(lot) ?? ZERO).plus(slot.perUnit));
    }
    const left = (available[slot.component.product] ?? []).map((candidate) => ({ ...candidate, quantity: formatQuantity(quantity(candidate.quantity).minus(drawn.get(candidate.number.toUpperCase()) ?? ZERO)) }));
    const enough = left.filter((candidate) => quantity(candidate.quantity).gte(slot.perUnit));
    const first = firstExpiredFirst(enough, quantity(slot.perUnit), today).picks[0];
    if (first) row[slot.key] = first.number;
  }
  return row;
}

export interface GroupRequest { outputs: Record<string, unknown>[]; inputs: Record<string, string>[] }

/** Units as groups of the booking, each with its own components; and which row each came from. */
export function unitGroups(product: string, components: readonly Component[], rows: readonly Row[], asked: readonly Column[] = []): { groups: GroupRequest[]; rowOf: number[]; missing: Map<number, string[]> } {
  const slots = slotsOf(components);
  const rowOf: number[] = [];
  const missing = new Map<number, string[]>();
  const groups = rows.flatMap((row, index) => {
    if (!row.serial?.trim()) return [];
    rowOf.push(index);
    const open = slots.filter((slot) => !row[slot.key]?.trim()).map((slot) => slot.label);
    if (open.length > 0) missing.set(index, open);
    return [{
      outputs: [{ product, serial: row.serial.trim(), quantity: '1', ...(row.lot?.trim() ? { lot: row.lot.trim() } : {}), ...bornWith(row, asked) }],
      inputs: [
        ...slots.flatMap((slot) => {
          const number = row[slot.key]?.trim();
          if (!number) return [];
          return [slot.serial ? { product: slot.component.product, serial: number, quantity: '1' } : { product: slot.component.product, lot: number, quantity: slot.perUnit }];
        }),
        ...components.filter((component) => component.marking === 'none').map((component) => ({ product: component.product, quantity: component.quantity }))
      ]
    }];
  });
  return { groups, rowOf, missing };
}

/** The component rows of a batch: each component filled from lots or serials, first expired first, for the quantity made. */
export function batchRows(components: readonly Component[], made: string, available: Readonly<Record<string, readonly Candidate[]>>, today: string): { rows: Row[]; short: { product: string; short: string; unit: string }[] } {
  const count = parseQuantity(made) ?? ZERO;
  const short: { product: string; short: string; unit: string }[] = [];
  const rows = components.flatMap((component): Row[] => {
    const wanted = quantity(component.quantity).times(count);
    if (component.marking === 'none') {
      const there = total((available[component.product] ?? []).map((candidate) => quantity(candidate.quantity)));
      if (there.lt(wanted)) short.push({ product: component.product, short: formatQuantity(wanted.minus(there)), unit: component.unit });
      return [{ product: component.product, number: '', quantity: formatQuantity(wanted) }];
    }
    const proposal = firstExpiredFirst(available[component.product] ?? [], wanted, today);
    if (proposal.short !== '0') short.push({ product: component.product, short: proposal.short, unit: component.unit });
    return proposal.picks.map((pick) => ({ product: component.product, number: pick.number, quantity: pick.quantity }));
  });
  return { rows, short };
}

/** A batch as the one group of its booking. */
export function batchGroup(product: string, lot: string, made: string, components: readonly Component[], rows: readonly Row[], born: Row = {}, asked: readonly Column[] = []): { group: GroupRequest; rowOf: number[] } {
  const marking = new Map(components.map((component) => [component.product.toUpperCase(), component.marking]));
  const rowOf: number[] = [];
  const inputs = rows.flatMap((row, index) => {
    if (!row.product?.trim()) return [];
    rowOf.push(index);
    const kind = marking.get(row.product.trim().toUpperCase());
    const number = row.number?.trim();
    return [{ product: row.product.trim(), quantity: row.quantity?.trim() ?? '', ...(number ? { [kind?.startsWith('serial') ? 'serial' : 'lot']: number } : {}) }];
  });
  return { group: { outputs: [{ product, quantity: made.trim(), ...(lot.trim() ? { lot: lot.trim() } : {}), ...bornWith(born, asked) }], inputs }, rowOf };
}

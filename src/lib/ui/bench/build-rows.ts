import { firstExpiredFirst, type Candidate } from '../../core/stock/first-expired.ts';
import { netNeed, plannedNeed, type CoProduct } from '../../core/catalogue/bill.ts';
import { positionsOf, type Component, type Position } from '../../core/catalogue/positions.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import {
  formatQuantity,
  parseQuantity,
  quantity,
  total,
  ZERO,
  type Quantity
} from '../../core/quantity/quantity.ts';
import { askedAt, givenIn } from '../../core/catalogue/ask.ts';
import { hasSerials, type MarkingPlan } from '../../core/catalogue/plan.ts';
import type { Column, Row } from './grid.ts';
import { columnOf } from './plan-column.ts';

/**
 * What an order makes, as its sheet needs it. `batch` is how much one batch makes, null where the
 * order is one.
 */
export interface Making {
  product: string;
  marking: Marking;
  components: readonly Component[];
  batch: string | null;
  coProducts: readonly CoProduct[];
}
type Shelf = Readonly<Record<string, readonly Candidate[]>>;

/**
 * What the plan of the made product asks beside the number: dates that are entered, and facts. The
 * day it is made is known.
 */
export function outputColumns(plan: MarkingPlan): Column[] {
  return askedAt(plan, 'output').flatMap((field): Column[] => {
    if (field.kind !== 'fact' && !(field.kind === 'date' && field.how === 'must')) return [];
    const column = columnOf(plan, field);
    return [{ ...column, inherit: field.kind === 'date' || column.choices !== undefined }];
  });
}

/** What a row says of the made mark beside its number, as the booking names it. */
const bornWith = (row: Row, asked: readonly Column[]): Record<string, unknown> =>
  givenIn(
    row,
    asked.map((column) => column.key)
  );

export const unitColumns = (
  product: string,
  marking: Marking,
  positions: readonly Position[]
): Column[] => [
  ...(marking === 'serial-in-lot'
    ? [{ key: 'lot', label: 'Lot', kind: 'number', inherit: true } as Column]
    : []),
  { key: 'serial', label: `${product} serial`, kind: 'number' },
  ...positions.map((position): Column => ({
    key: position.key,
    label: position.label,
    kind: 'number'
  }))
];

/**
 * The first lot of each lot position that still has enough after the units above drew on it, first
 * expired first.
 */
export function lotsForNextUnit(
  positions: readonly Position[],
  rows: readonly Row[],
  available: Shelf,
  today: string
): Row {
  const row: Row = {};
  for (const position of positions) {
    if (position.serial) continue;
    const drawn = new Map<string, Quantity>();
    for (const above of rows) {
      const lot = above[position.key]?.trim().toUpperCase();
      if (lot) drawn.set(lot, (drawn.get(lot) ?? ZERO).plus(position.perUnit));
    }
    const left = (available[position.component.product] ?? []).map((candidate) => ({
      ...candidate,
      quantity: formatQuantity(
        quantity(candidate.quantity).minus(drawn.get(candidate.number.toUpperCase()) ?? ZERO)
      )
    }));
    const enough = left.filter((candidate) => quantity(candidate.quantity).gte(position.perUnit));
    // The lot in hand goes on while it lasts.
    const inHand = rows.at(-1)?.[position.key]?.trim().toUpperCase();
    const first =
      enough.find(
        (candidate) =>
          candidate.number.toUpperCase() === inHand &&
          candidate.state === 'usable' &&
          (candidate.expires === null || candidate.expires >= today)
      ) ?? firstExpiredFirst(enough, quantity(position.perUnit), today).picks[0];
    if (first) row[position.key] = first.number;
  }
  return row;
}

/**
 * How much of each part is still to be named for so many made, after what the units and the batch
 * rows name; by product.
 */
export function stillToName(
  { components, batch }: Making,
  made: Quantity,
  units: readonly Row[],
  rows: readonly Row[]
): Map<string, Quantity> {
  const positions = positionsOf(components);
  return new Map(
    components.map((component) => {
      const inUnits = total(
        positions
          .filter((position) => position.component.product === component.product)
          .flatMap((position) =>
            units.flatMap((row) =>
              row.serial?.trim() && row[position.key]?.trim() ? [quantity(position.perUnit)] : []
            )
          )
      );
      const names = new Set(
        [component.product, ...component.alternates].map((code) => code.toUpperCase())
      );
      const inRows = total(
        rows.flatMap((row) =>
          names.has(row.product?.trim().toUpperCase() ?? '')
            ? [parseQuantity(row.quantity ?? '') ?? ZERO]
            : []
        )
      );
      const open = netNeed(component, batch, made).minus(inUnits).minus(inRows);
      return [component.product, open.gt(0) ? open : ZERO];
    })
  );
}

/**
 * The rows of a batch: each part that is still to be named filled from lots or serials, first
 * expired first, over several where one does not suffice. Parts drawn by themselves have no row.
 */
export function batchRows(
  making: Making,
  made: string,
  units: readonly Row[],
  available: Shelf,
  today: string,
  also: (component: Component) => boolean = () => true
): Row[] {
  const open = stillToName(making, parseQuantity(made) ?? ZERO, units, []);
  const inUnits = new Set(
    units.flatMap((row) => Object.values(row).map((text) => text.trim().toUpperCase()))
  );
  return making.components.flatMap((component): Row[] => {
    const wanted = open.get(component.product) ?? ZERO;
    if (component.follow === 'drawn' || !also(component) || wanted.lte(0)) return [];
    if (component.marking === 'none')
      return [{ product: component.product, number: '', quantity: formatQuantity(wanted) }];
    const shelf = (available[component.product] ?? []).filter(
      (candidate) => !hasSerials(component.marking) || !inUnits.has(candidate.number.toUpperCase())
    );
    return firstExpiredFirst(shelf, wanted, today).picks.map((pick) => ({
      product: component.product,
      number: pick.number,
      quantity: pick.quantity
    }));
  });
}

/**
 * What is short for so many made, with the bill's allowance for scrap: said before the work.
 * @param usable what of each product may be used, over all that lies anywhere
 */
export function shortFor(
  { components, batch }: Making,
  made: string,
  usable: Readonly<Record<string, string>>
): { product: string; short: string; unit: string }[] {
  const amount = parseQuantity(made) ?? ZERO;
  return components.flatMap(({ product, unit, alternates, ...component }) => {
    const there = [product, ...alternates].map((code) => quantity(usable[code] ?? '0'));
    const short = plannedNeed(component, batch, amount).minus(total(there)).toDecimalPlaces(6);
    return short.gt(0) ? [{ product, short: formatQuantity(short), unit }] : [];
  });
}

export interface BuildRequest {
  groups: { outputs: Record<string, unknown>[]; inputs: Record<string, unknown>[] }[];
  shared: Record<string, unknown>[];
}
export interface BuiltFrom extends BuildRequest {
  /**
   * For each group the row of units it came from; for each shared input the batch row, or null
   * where it is drawn by itself.
   */
  rowOf: number[];
  sharedRowOf: (number | null)[];
  /** Positions of a unit that nothing names and the batch does not cover. */
  missing: Map<number, string[]>;
}

const inputOf = (
  markings: ReadonlyMap<string, Marking>,
  product: string,
  number: string,
  amount: string,
  position?: string
): Record<string, unknown> => ({
  product,
  ...(number
    ? { [hasSerials(markings.get(product.toUpperCase()) ?? 'lot') ? 'serial' : 'lot']: number }
    : {}),
  quantity: amount,
  ...(position ? { position } : {})
});

function markingsOf(components: readonly Component[]): Map<string, Marking> {
  return new Map(
    components.flatMap((component) => [
      [component.product.toUpperCase(), component.marking] as const,
      ...component.others.map((other) => [other.product.toUpperCase(), other.marking] as const)
    ])
  );
}

/** What went in for all units together: the rows of the batch, and what is drawn by itself. */
function sharedInputs(
  making: Making,
  made: Quantity,
  rows: readonly Row[]
): Pick<BuiltFrom, 'shared' | 'sharedRowOf'> {
  const markings = markingsOf(making.components);
  const shared: Record<string, unknown>[] = [],
    sharedRowOf: (number | null)[] = [];
  rows.forEach((row, index) => {
    if (!row.product?.trim()) return;
    shared.push(
      inputOf(markings, row.product.trim(), row.number?.trim() ?? '', row.quantity?.trim() ?? '')
    );
    sharedRowOf.push(index);
  });
  const open = stillToName(making, made, [], rows);
  for (const component of making.components) {
    const wanted = open.get(component.product)!;
    if (component.follow !== 'drawn' || wanted.lte(0)) continue;
    shared.push({ product: component.product, quantity: formatQuantity(wanted), draw: true });
    sharedRowOf.push(null);
  }
  return { shared, sharedRowOf };
}

/** Units as groups of the booking, each with its own parts; and what went in for all of them. */
export function unitGroups(
  making: Making,
  rows: readonly Row[],
  batch: readonly Row[],
  asked: readonly Column[] = []
): BuiltFrom {
  const { product, components } = making;
  const positions = positionsOf(components);
  const markings = markingsOf(components);
  /** A part scanned as an alternate is kept in its cell as `PRODUCT number`. */
  const rowOf: number[] = [];
  const groups = rows.flatMap((row, index) => {
    if (!row.serial?.trim()) return [];
    rowOf.push(index);
    return [
      {
        outputs: [
          {
            product,
            serial: row.serial.trim(),
            quantity: '1',
            ...(row.lot?.trim() ? { lot: row.lot.trim() } : {}),
            ...bornWith(row, asked)
          }
        ],
        inputs: positions.flatMap((position) => {
          const text = row[position.key]?.trim();
          if (!text) return [];
          const other = position.component.alternates.find((one) =>
            text.toUpperCase().startsWith(`${one.toUpperCase()} `)
          );
          const named =
            position.component.positions[
              positions.filter((one) => one.component === position.component).indexOf(position)
            ];
          return [
            inputOf(
              markings,
              other ?? position.component.product,
              other ? text.slice(other.length + 1).trim() : text,
              position.perUnit,
              named
            )
          ];
        })
      }
    ];
  });
  const made = quantity(groups.length);
  const { shared, sharedRowOf } = sharedInputs(making, made, batch);
  const open = stillToName(making, made, rows, batch);
  const missing = new Map<number, string[]>();
  for (const index of rowOf) {
    const lacking = positions
      .filter(
        (position) =>
          !rows[index]![position.key]?.trim() && open.get(position.component.product)!.gt(0)
      )
      .map((position) => position.label);
    if (lacking.length > 0) missing.set(index, lacking);
  }
  return { groups, rowOf, missing, shared, sharedRowOf };
}

/** A batch as the one group of its booking, with its co-products. */
export function batchGroup(
  making: Making,
  lot: string,
  made: string,
  rows: readonly Row[],
  born: Row = {},
  asked: readonly Column[] = [],
  co: Readonly<Record<string, { lot: string; quantity: string }>> = {}
): BuiltFrom {
  const coOutputs = making.coProducts.flatMap(({ product }) => {
    const given = co[product];
    return given && parseQuantity(given.quantity)?.gt(0)
      ? [
          {
            product,
            quantity: given.quantity.trim(),
            ...(given.lot.trim() ? { lot: given.lot.trim() } : {})
          }
        ]
      : [];
  });
  return {
    groups: [
      {
        outputs: [
          {
            product: making.product,
            quantity: made.trim(),
            ...(lot.trim() ? { lot: lot.trim() } : {}),
            ...bornWith(born, asked)
          },
          ...coOutputs
        ],
        inputs: []
      }
    ],
    rowOf: [],
    missing: new Map(),
    ...sharedInputs(making, parseQuantity(made) ?? ZERO, rows)
  };
}

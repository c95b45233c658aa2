import { quantity, type Quantity } from '../../quantity/quantity.ts';
import { plainPlan, type MarkingPlan } from '../../catalogue/plan.ts';
import { indexMarks, type KnownMark, type KnownProduct, type Snapshot } from '../snapshot.ts';
import { type Marking } from '../../catalogue/marking.ts';

interface Given {
  marks?: (Partial<KnownMark> & { id: number; product: string; number: string | null })[];
  /** `[mark id, place code, quantity]` */
  stock?: [number, string, string][];
  order?: Snapshot['order'];
  elsewhere?: Snapshot['elsewhere'];
  /** Plans instead of the plain ones, by product code. */
  plans?: Record<string, Partial<MarkingPlan>>;
  /** Net weights in kg other than 1, by product code; null where none is known. */
  weights?: Record<string, string | null>;
  named?: Snapshot['named'];
  gone?: Snapshot['gone'];
  event?: Snapshot['event'];
  asBuilt?: Snapshot['asBuilt'];
  costs?: Snapshot['costs'];
  currency?: Snapshot['currency'];
  promised?: Snapshot['promised'];
  offSpec?: Snapshot['offSpec'];
  units?: Snapshot['units'];
  packed?: Snapshot['packed'];
  bills?: Snapshot['bills'];
  wishes?: Snapshot['wishes'];
  untested?: Snapshot['untested'];
  granted?: Snapshot['granted'];
  sales?: Snapshot['sales'];
  recalled?: Snapshot['recalled'];
  opened?: Snapshot['opened'];
  later?: Snapshot['later'];
}
const PRODUCTS: [number, string, Marking, number, number | null][] = [
  [1, 'LOT', 'lot', 2, null],
  [2, 'SER', 'serial', 0, null],
  [3, 'SIL', 'serial-in-lot', 0, null],
  [4, 'BULK', 'none', 0, null],
  [5, 'FRESH', 'lot', 2, 10]
];

/**
 * A small world a decision can be taken in, without a database: 23 November 2026, places A and B,
 * four kinds of product.
 */
export function snapshot({
  marks = [],
  stock = [],
  order = null,
  elsewhere = new Map(),
  plans = {},
  weights = {},
  named = new Map(),
  gone = new Map(),
  event = null,
  asBuilt = new Map(),
  costs = new Map(),
  currency = null,
  promised = new Map(),
  offSpec = new Map(),
  units = new Map(),
  packed = new Map(),
  bills = [],
  wishes = new Map(),
  untested = new Set(),
  granted = [],
  sales = new Map(),
  recalled = new Set(),
  opened = new Map(),
  later = new Map()
}: Given = {}): Snapshot {
  const products = new Map(
    PRODUCTS.map(([id, code, marking, decimals, shelfLifeDays]): [string, KnownProduct] => {
      const plan = { ...plainPlan(marking, { shelfLifeDays }), ...plans[code] };
      return [
        code,
        {
          id,
          code,
          name: code.toLowerCase(),
          unit: 'each',
          decimals,
          marking: plan.identity,
          plan,
          planVersion: code in plans ? 70 + id : null,
          netWeightKg: weights[code] === null ? null : quantity(weights[code] ?? '1'),
          units: new Map([['PACK', { name: 'pack', holds: quantity(10) }]])
        }
      ];
    })
  );
  const known = marks.map(({ product, ...mark }): KnownMark => {
    const { id: productId, marking } = products.get(product)!;
    return {
      kind: mark.number === null ? 'bulk' : marking === 'lot' ? 'lot' : 'serial',
      lotId: null,
      state: 'usable',
      expires: null,
      made: null,
      retest: null,
      supplierNumber: null,
      facts: {},
      bornOn: '2026-03-03',
      ...mark,
      productId
    };
  });
  const byMark = new Map<number, Map<string, Quantity>>();
  for (const [mark, place, amount] of stock)
    byMark.set(mark, new Map([...(byMark.get(mark) ?? []), [place, quantity(amount)]]));
  return {
    happenedAt: new Date('2026-11-23T12:00:00Z'),
    day: '2026-11-23',
    products,
    order,
    elsewhere,
    stock: byMark,
    named,
    gone,
    event,
    asBuilt,
    costs,
    currency,
    promised,
    offSpec,
    units,
    packed,
    bills,
    wishes,
    untested,
    granted,
    sales,
    recalled,
    opened,
    later,
    places: new Map(
      ['A', 'B', 'Q'].map((code, index) => [
        code,
        {
          ...{ id: index + 1, code, name: `rack ${code}`, site: 'Works', zone: 'Europe/London' },
          quarantine: code === 'Q'
        }
      ])
    ),
    partners: new Map([
      ['SUP', { id: 1, code: 'SUP', name: 'Supplier', supplier: true, customer: false }],
      ['CUS', { id: 2, code: 'CUS', name: 'Customer', supplier: false, customer: true }]
    ]),
    marks: indexMarks(known),
    marksById: new Map(known.map((mark) => [mark.id, mark]))
  };
}

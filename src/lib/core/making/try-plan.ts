import { capital } from '../capital.ts';
import { decideBuild } from './build.ts';
import type { Fault, Note } from '../faults/fault.ts';
import { decideReceipt } from '../receiving/receive.ts';
import { codeKey, type KnownProduct, type Snapshot } from '../ledger/snapshot.ts';
import { givenIn } from '../catalogue/ask.ts';
import type { Checkpoint, MarkingPlan } from '../catalogue/plan.ts';

export interface Tried {
  ok: boolean;
  faults: Fault[];
  notes: Note[];
  /** Dates the plan fills in, by field. */ filled: Record<string, string>;
}

/**
 * What would happen to a unit marked by a plan, with nothing booked: the very decision of a receipt
 * or a build, in a world of one product.
 * @param given what is typed in, by the keys of `askedAt`
 * @param day `YYYY-MM-DD`
 */
export function tryPlan(
  plan: MarkingPlan,
  checkpoint: Checkpoint,
  given: Readonly<Record<string, string>>,
  day: string
): Tried {
  const product: KnownProduct = {
    id: 1,
    code: 'IT',
    name: 'the product',
    unit: 'each',
    decimals: 3,
    marking: plan.identity,
    plan,
    planVersion: null,
    netWeightKg: null,
    units: new Map()
  };
  const snapshot: Snapshot = {
    happenedAt: new Date(`${day}T12:00:00Z`),
    day,
    order: null,
    named: new Map(),
    bills: [],
    gone: new Map(),
    event: null,
    asBuilt: new Map(),
    costs: new Map(),
    currency: null,
    promised: new Map(),
    offSpec: new Map(),
    units: new Map(),
    packed: new Map(),
    wishes: new Map(),
    untested: new Set(),
    granted: [],
    sales: new Map(),
    recalled: new Set(),
    opened: new Map(),
    later: new Map(),
    products: new Map([['IT', product]]),
    marks: new Map(),
    marksById: new Map(),
    elsewhere: new Map(),
    stock: new Map(),
    places: new Map([
      ['HERE', { id: 1, code: 'HERE', name: 'here', site: 'here', zone: 'UTC', quarantine: false }]
    ]),
    partners: new Map([
      ['THEM', { id: 1, code: 'THEM', name: 'them', supplier: true, customer: false }]
    ])
  };
  const { quantity = '1', ...mark } = givenIn(given, Object.keys(given)) as {
    quantity?: string;
  } & Record<string, unknown>;
  const numbered =
    Boolean(given.lot?.trim() || given.serial?.trim()) || plan.asks[checkpoint] === 'always';
  const { made: _, supplierNumber: __, ...output } = mark;
  const decision =
    checkpoint === 'output'
      ? decideBuild(snapshot, {
          document: 'TRY',
          place: 'HERE',
          groups: [{ outputs: [{ product: 'IT', quantity, ...output }], inputs: [] }]
        })
      : decideReceipt(snapshot, {
          document: 'TRY',
          supplier: 'THEM',
          lines: [
            { product: 'IT', place: 'HERE', quantity, ...(numbered ? { marks: [mark] } : {}) }
          ]
        });
  const said = <M extends { message: string }>(list: readonly M[]): M[] =>
    list.map((one) => ({ ...one, message: asIt(one.message) }));
  if (!decision.ok)
    return { ok: false, faults: said(decision.faults), notes: said(decision.notes), filled: {} };
  const born =
    decision.rows.newMarks.find(
      (one) => codeKey(one.number ?? '') === codeKey(given.serial ?? given.lot ?? '')
    ) ?? decision.rows.newMarks.at(-1);
  return {
    ok: true,
    faults: [],
    notes: said(decision.notes),
    filled: {
      ...(born?.madeOn ? { made: born.madeOn } : {}),
      ...(born?.expiresOn ? { expires: born.expiresOn } : {}),
      ...(born?.retestOn ? { retest: born.retestOn } : {})
    }
  };
}

/** The one product of this world has no name: sentences call it `it`. */
const asIt = (message: string): string => capital(message.replace(/\bIT( the product)?\b/g, 'it'));

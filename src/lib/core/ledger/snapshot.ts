import type { Marking, MarkKind, MarkState } from '../catalogue/marking.ts';
import type { Bill } from '../catalogue/bill.ts';
import type { FactValues } from '../catalogue/facts.ts';
import type { MarkingPlan } from '../catalogue/plan.ts';
import { numberKey } from '../numbers/number.ts';
import type { Quantity } from '../quantity/quantity.ts';
import type { Granted } from '../faults/granted.ts';
import type { CustomerWishes } from '../catalogue/wishes.ts';
import type { ChangedField } from './changed-field.ts';

export interface KnownProduct {
  id: number;
  code: string;
  name: string;
  unit: string;
  decimals: number;
  marking: Marking;
  /**
   * The plan it is marked by, with what the product says itself; and the version of the plan kept
   * in Setup, null for the plain one.
   */
  plan: MarkingPlan;
  planVersion: number | null;
  /** Other units it is counted in, by folded name: how many of its own unit one of them holds. */
  units: ReadonlyMap<string, { name: string; holds: Quantity }>;
  /** Net weight of one unit of it in kg; null where it is not known. */
  netWeightKg: Quantity | null;
}
export interface KnownPlace {
  id: number;
  code: string;
  name: string;
  site: string;
  /** Time zone of its site. */ zone: string;
  /** What lies there is free for nothing until it is moved out by somebody with the right. */
  quarantine: boolean;
  /** The way of a transfer: what is there is under way, and on hand nowhere. */
  transit?: boolean;
}

/** Whether what lies at a place is free to be used, promised or sent. */
export const isFree = ({ quarantine, transit }: KnownPlace): boolean => !quarantine && !transit;
export interface KnownPartner {
  id: number;
  code: string;
  name: string;
  supplier: boolean;
  customer: boolean;
}

export interface KnownMark {
  id: number;
  productId: number;
  kind: MarkKind;
  number: string | null;
  lotId: number | null;
  state: MarkState;
  expires: string | null;
  made: string | null;
  retest: string | null;
  supplierNumber: string | null;
  facts: FactValues;
  /** The day it was first booked, for the sentence that says since when. */
  bornOn: string;
  /** What made it was taken back: its number may be made again. */
  unmade?: boolean;
}

/** A bill, with the products its lines name by folded code. */
export interface KnownBill {
  bill: Bill;
  ids: ReadonlyMap<string, number>;
}

export interface KnownOrder {
  id: number;
  number: string;
  closed: boolean;
  partner: string | null;
  /**
   * Per product id: what was ordered, the most the tolerance lets in, what has been booked against
   * it so far, and the price of one of its own unit.
   */
  lines: ReadonlyMap<
    number,
    { ordered: Quantity; most: Quantity; done: Quantity; price?: Quantity | null }
  >;
  /** Numbers the supplier announced, by markKey; empty where none were. */
  announced: ReadonlySet<string>;
  /**
   * The bill a work order keeps, the latest version there is, and the products its lines name by
   * folded code.
   */
  bill: (KnownBill & { latest: number }) | null;
  /** How many of its outputs were named ahead. */
  named: number;
}

/** Where a mark went that is no longer on hand. */
export interface Gone {
  kind: string;
  document: string;
  day: string;
  partner: string | null;
  /** The mark it went into. */ into: string | null;
}

/** A carton or pallet: what is in it, what stands on it, and what it left with. */
export interface KnownUnit {
  id: number;
  sscc: string;
  kind: 'carton' | 'pallet';
  order: string | null;
  /** The document it left with. */ shipped: string | null;
  /** SSCC of the pallet it stands on. */ pallet: string | null;
  cartons: readonly string[];
  contents: ReadonlyMap<number, Quantity>;
}

/** What a customer still has of a mark by one shipment. */
export interface Sale {
  event: number;
  document: string;
  day: string;
  partner: string | null;
  partnerId: number | null;
  quantity: Quantity;
}

/** What an event changed of a mark's fields, and what came of it since. */
export interface KnownChange {
  mark: number;
  field: ChangedField;
  fact: string | null;
  from: string | null;
  to: string | null;
  /** What the field says now. */
  now: string | null;
  /** Whether what it said before may be said again: no other mark took the number meanwhile. */
  free: boolean;
}

/** An event that touched a mark later, and stands in the way of taking an earlier one back. */
export interface LaterEvent {
  event: number;
  kind: string;
  document: string;
  day: string;
}

/** What an event moved of a mark at a place: in above zero, out below. */
export interface KnownMovement {
  mark: number;
  place: string;
  quantity: Quantity;
}

/** What an event after the booking's own date moved of a mark, over all places. */
export interface LaterMovement extends LaterEvent {
  /** The instant it happened, in microseconds. */
  at: number;
  quantity: Quantity;
}

/** An event that is to be taken back. */
export interface KnownEvent {
  id: number;
  kind: string;
  document: string;
  orderId: number | null;
  partnerId: number | null;
  movements: readonly KnownMovement[];
  transformations: readonly {
    id: number;
    reversed: boolean;
    shared: boolean;
    inputs: readonly { mark: number; quantity: Quantity }[];
    outputs: readonly { mark: number; quantity: Quantity }[];
  }[];
  changes: readonly KnownChange[];
  /** The cost of one of what came in by it, as it is told by now; null where it is not known. */
  costs: ReadonlyMap<number, Quantity | null>;
  /** What it put into cartons and pallets, or took out (below zero). */
  packings: readonly KnownPacking[];
  /** What it put into units, and took out. */
  fittings: readonly KnownFitting[];
  removals: readonly KnownFitting[];
  /** The last event that put a part into a unit it made, or took one out. */
  fittedSince: ReadonlyMap<number, LaterEvent>;
  /** SSCCs of the cartons and pallets that left by it. */
  shipped: readonly string[];
  /** Marks of which what it did was taken back already. */
  takenBack: ReadonlySet<number>;
  /** The last event that touched a mark after it and was not taken back. */
  later: ReadonlyMap<number, LaterEvent>;
  /** Whether all of it was taken back, where it moved and changed nothing: a packing. */
  undone: boolean;
}

export interface KnownFitting {
  part: number;
  host: number;
  position: string | null;
  quantity: Quantity;
}

export interface KnownPacking {
  unit: string;
  unitId: number;
  mark: number | null;
  child: string | null;
  childId: number | null;
  quantity: Quantity;
}

/**
 * All that a booking's decision may know: read in the booking's own transaction, after the stock it
 * draws on was locked.
 */
/** A part of a unit, or of a lot of alike ones, which share evenly. */
export interface PartInside {
  mark: number;
  /** All that went in, and what of it did not come out again. */
  wentIn: Quantity;
  left: Quantity;
  /** How much was made of it: 1 of a unit. */
  made: Quantity;
}

export interface Snapshot {
  /** The instant the event happened, and its calendar day at the site. */
  happenedAt: Date;
  day: string;
  products: ReadonlyMap<string, KnownProduct>;
  places: ReadonlyMap<string, KnownPlace>;
  partners: ReadonlyMap<string, KnownPartner>;
  order: KnownOrder | null;
  marks: MarkIndex;
  /** The same marks, and the lots they are within, by id. */
  marksById: ReadonlyMap<number, KnownMark>;
  /**
   * For numbers not found under their product: what else carries that number or carried it before
   * an amendment, by folded number.
   */
  elsewhere: ReadonlyMap<
    string,
    {
      kind: MarkKind;
      product: string;
      /** Its number now, where an amendment changed it. */ now?: string;
    }
  >;
  /** Bills in force of outputs that the order's own bill does not tell of. */
  bills: readonly KnownBill[];
  /** Orders that named these outputs ahead, by markKey: the order's number. */
  named: ReadonlyMap<string, string>;
  /** For named serials that lie nowhere: where they went. */
  gone: ReadonlyMap<number, Gone>;
  /** The event to be taken back; null where none is asked or it is not there. */
  event: KnownEvent | null;
  /** What is in a mark, part by part. */
  asBuilt: ReadonlyMap<number, readonly PartInside[]>;
  /** What of a mark is promised to which orders. */
  promised: ReadonlyMap<
    number,
    readonly { order: string; partner: string | null; quantity: Quantity }[]
  >;
  /** Marks that do not conform to the spec that counts, with why. */
  offSpec: ReadonlyMap<number, string>;
  /** Cartons and pallets by SSCC. */
  units: ReadonlyMap<string, KnownUnit>;
  /** What of a mark is in cartons that have not left. */
  packed: ReadonlyMap<number, readonly { sscc: string; quantity: Quantity }[]>;
  /** What the customer wishes, by product id; only where they wish anything. */
  wishes: ReadonlyMap<number, CustomerWishes>;
  /** Marks the spec that counts asks tests of, and that have not all of them. */
  untested: ReadonlySet<number>;
  /** Faults that were approved for this booking, or given a reason by an earlier one of its order. */
  granted: readonly Granted[];
  /** To whom a mark was shipped, the latest first; quantity 0 where all of it came back. */
  sales: ReadonlyMap<number, readonly Sale[]>;
  /** Marks that an open recall, and no drill, suspects or found with customers; of returns only. */
  recalled: ReadonlySet<number>;
  /** Where and how marks came in as opening stock already, for an opening; quantities as text. */
  opened: ReadonlyMap<number, readonly { place: number; document: string; quantity: string }[]>;
  /** The cost of one of a mark, where it is known. */
  costs: ReadonlyMap<number, Quantity>;
  /** The currency costs are kept in, as ISO 4217; null where they are not kept. */
  currency: string | null;
  /**
   * Of marks of which something happened after the booking's own date: what moved of them since, by
   * instant, the earliest first.
   */
  later: ReadonlyMap<number, readonly LaterMovement[]>;
  /** On hand by mark id, then by place code; only what is above zero. */
  stock: ReadonlyMap<number, ReadonlyMap<string, Quantity>>;
}

/**
 * Known marks by product and kind, and there by folded number: ten thousand look-ups of one line
 * need no keys put together.
 */
export type MarkIndex = ReadonlyMap<string, ReadonlyMap<string, KnownMark>>;

export const markGroup = (productId: number, kind: MarkKind): string => `${productId} ${kind}`;

export function indexMarks(marks: readonly KnownMark[]): MarkIndex {
  const index = new Map<string, Map<string, KnownMark>>();
  let before: KnownMark | null = null;
  let group = new Map<string, KnownMark>();
  for (const mark of marks) {
    // Ten thousand of one product follow each other: their group is named once.
    if (before?.productId !== mark.productId || before.kind !== mark.kind) {
      const name = markGroup(mark.productId, mark.kind);
      group = index.get(name) ?? new Map();
      index.set(name, group);
    }
    group.set(numberKey(mark.number ?? ''), mark);
    before = mark;
  }
  return index;
}

/** The key a mark is known by within one booking: product, kind and folded number. */
export const markKey = (productId: number, kind: MarkKind, number: string): string =>
  `${productId} ${kind} ${numberKey(number)}`;

/** The key a code is found by. */
export const codeKey = (code: string): string => numberKey(code);

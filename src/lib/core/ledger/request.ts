import type { Reasons } from '../faults/fault.ts';

/**
 * What a booking asks for, as it arrives: codes and numbers as typed, quantities as decimal
 * strings.
 */

export interface MarkNamed {
  lot?: string;
  serial?: string;
}
export interface OrderNamed {
  kind: 'purchase' | 'work' | 'sales';
  number: string;
}

/**
 * What a mark brings along when it is born; dates as `YYYY-MM-DD`, facts by their name in the plan.
 */
export interface BornWith {
  made?: string;
  expires?: string;
  retest?: string;
  supplierNumber?: string;
  facts?: Record<string, string>;
}

export interface ReceivedMark extends MarkNamed, BornWith {
  quantity?: string;
}
/**
 * `unit` is one of the product's other units and counts for the line's quantity and those of its
 * marks.
 */
export interface ReceiptLine {
  product: string;
  place: string;
  quantity: string;
  unit?: string;
  /** Cost of one of the product's own unit. */ unitCost?: string;
  marks?: ReceivedMark[];
}
export interface Receipt {
  document: string;
  supplier: string;
  lines: ReceiptLine[];
  reasons?: Reasons;
}

/** Stock that lay here before Earmark: no order, no supplier. */
export interface OpeningLine extends Omit<ReceiptLine, 'marks'> {
  /** Each with a cost of its own where it has one. */
  marks?: (ReceivedMark & { unitCost?: string })[];
}
export interface Opening {
  document: string;
  lines: OpeningLine[];
  reasons?: Reasons;
}

/** An input with `draw` names no lot: it is taken first expired first. */
export interface BuildLine extends MarkNamed, Pick<BornWith, 'expires' | 'retest' | 'facts'> {
  product: string;
  quantity?: string;
  place?: string;
  draw?: boolean;
  /** Where on the unit it sits. */ position?: string;
}
export interface BuildGroup {
  outputs: BuildLine[];
  inputs: BuildLine[];
}
/**
 * `shared` is what went into all groups together, where nobody can say which unit took which lot.
 */
export interface Build {
  document: string;
  place: string;
  groups: BuildGroup[];
  shared?: BuildLine[];
  reasons?: Reasons;
}

export interface RepackLine extends MarkNamed {
  product: string;
  quantity?: string;
  place?: string;
  /** Cost of one unit of it. */ unitCost?: string;
}
/**
 * One lot, or the parts of one kit, put into other packs. A result without a lot takes over its
 * source's.
 */
export interface RepackGroup {
  sources: RepackLine[];
  results: (RepackLine & Pick<BornWith, 'expires' | 'facts'>)[];
}
export interface Repack {
  document: string;
  place: string;
  reason?: string;
  groups: RepackGroup[];
  reasons?: Reasons;
}

/** What came out of a unit; `lost` did not survive it. */
export interface TornPart extends MarkNamed, Pick<BornWith, 'expires' | 'facts'> {
  product: string;
  quantity?: string;
  place?: string;
  lost?: boolean;
}
export interface TornUnit extends MarkNamed {
  product: string;
  quantity?: string;
  parts: TornPart[];
}
export interface Teardown {
  document: string;
  place: string;
  reason?: string;
  units: TornUnit[];
  reasons?: Reasons;
}

/** A part that goes into a unit; `from` where it must be taken from. */
export interface PartIn extends MarkNamed {
  product: string;
  quantity?: string;
  position?: string;
  from?: string;
}
/** A part that comes out of a unit, and what becomes of it; usable where nothing is said. */
export interface PartOut extends MarkNamed {
  product: string;
  quantity?: string;
  position?: string;
  to: string;
  state?: 'held' | 'usable' | 'scrap';
}
export interface HostFitting extends MarkNamed {
  product: string;
  fit?: PartIn[];
  remove?: PartOut[];
}
/** Parts into units and out of them: of one position both at once is a swap. */
export interface Fitting {
  document: string;
  place: string;
  reason?: string;
  units: HostFitting[];
  reasons?: Reasons;
}

/** Takes an event back: all of it, or only what it did to the marks named. */
export interface Reversal {
  document: string;
  event: number;
  reason?: string;
  reasons?: Reasons;
  units?: (MarkNamed & { product: string })[];
}

export interface ShippedMark extends MarkNamed {
  quantity?: string;
}
export interface ShipmentLine {
  product: string;
  place?: string;
  quantity?: string;
  marks?: ShippedMark[];
}
/**
 * `units` are SSCCs of cartons and pallets that leave with all that is in them, beside the goods of
 * the lines.
 */
export interface Shipment {
  document: string;
  customer: string;
  lines: ShipmentLine[];
  units?: string[];
  reasons?: Reasons;
}

/** Goods into a carton, or cartons (`units`) onto a pallet; without `unit` a new one is made. */
export interface Packing {
  document: string;
  kind: 'pack' | 'unpack';
  unit?: string;
  make?: 'carton' | 'pallet';
  lines: (MarkNamed & { product: string; quantity?: string })[];
  units: string[];
  reasons?: Reasons;
}

/** Shipped goods that come back to a place. */
export interface GoodsReturn {
  document: string;
  customer?: string;
  place: string;
  lines: (MarkNamed & { product: string; quantity?: string })[];
}

export interface CorrectionLine extends MarkNamed, BornWith {
  product: string;
  place: string;
  quantity?: string;
  /** Of a gain: what one of the product's own unit cost. */
  unitCost?: string;
}
export interface Correction {
  document: string;
  kind: 'gain' | 'loss' | 'scrap';
  lines: CorrectionLine[];
  reasons?: Reasons;
}

/** What one place holds of one number, as somebody found it. */
export interface CountedLine extends MarkNamed, BornWith {
  product: string;
  place: string;
  /** 0 where it is not there, null where an entry is taken back; of a serial 1 where left out. */
  quantity?: string | null;
}

/** A difference a count found: what was counted, and what the ledger said at that moment. */
export interface CountDifference extends MarkNamed, BornWith {
  product: string;
  place: string;
  counted: string;
  seen: string;
  unitCost?: string;
}
/** A count as it is approved. */
export interface CountApproval {
  document: string;
  reason: string;
  lines: CountDifference[];
  reasons?: Reasons;
}

/** What marks cost, told otherwise than it was. */
export interface Revaluation {
  document: string;
  /** The event they came in by, where that is corrected; left out where they are worth less now. */
  receipt?: number;
  lines: RevaluedLine[];
  /** Freight and the like, spread over all that came in by the event. */
  landed?: { amount: string; by: LandedBy };
}
export interface RevaluedLine extends MarkNamed {
  product: string;
  unitCost: string;
}
export const LANDED_BY = ['value', 'quantity', 'weight'] as const;
export type LandedBy = (typeof LANDED_BY)[number];

export interface MoveLine extends MarkNamed {
  product: string;
  from: string;
  to: string;
  quantity?: string;
}
/** A carton or pallet that is carried to a place with all that is in it. */
export interface MoveUnit {
  sscc: string;
  to: string;
}
export interface Move {
  document: string;
  kind: 'put away' | 'move' | 'transfer';
  lines: MoveLine[];
  units?: MoveUnit[];
}

/**
 * Numbers for stock that has none: at a place, and of a lot where the product is marked by serial
 * within lot.
 */
export interface IdentifyLine {
  product: string;
  place: string;
  lot?: string;
  marks: ReceivedMark[];
}
export interface Identification {
  document: string;
  lines: IdentifyLine[];
  reasons?: Reasons;
}

/** What is to stand on a mark instead; null takes a value away. */
export interface AmendedTo {
  number?: string;
  made?: string | null;
  expires?: string | null;
  retest?: string | null;
  supplierNumber?: string | null;
  facts?: Record<string, string | null>;
}
export interface AmendLine extends MarkNamed {
  product: string;
  to: AmendedTo;
}
export interface Amendment {
  document: string;
  lines: AmendLine[];
}

export interface QualityDecision {
  document: string;
  kind: 'hold' | 'release' | 'reject';
  marks: (MarkNamed & { product: string })[];
}

/**
 * Marks of one product that a request names; the request's own rows, so that ten thousand are not
 * copied to be looked up.
 */
export interface NamedMarks {
  product: string;
  marks: readonly MarkNamed[];
}

/** The marks of lines that name one each. */
export const onePerLine = (lines: readonly (MarkNamed & { product: string })[]): NamedMarks[] =>
  lines.map((line) => ({ product: line.product, marks: [line] }));

/** What must be read before a decision can be taken. */
export interface Wants {
  products: string[];
  places: string[];
  partner: string | null;
  order: OrderNamed | null;
  marks: readonly NamedMarks[];
  /**
   * Whether the booking takes stock away or changes a state, so that the stock must be locked
   * first.
   */
  draws: boolean;
  /** Products drawn without a number: all their lots on hand are read. */
  lotsOf?: readonly string[];
  /** What the order's outputs are to be called, to see whose they are. */
  outputs?: readonly NamedMarks[];
  /** An event to be taken back, with its marks. */
  event?: number;
  /**
   * Also what of the marks is promised to orders, and for a shipment which do not conform to this
   * customer's spec.
   */
  promises?: true;
  specsFor?: string;
  /** Cartons and pallets by SSCC, with what is in them; and what of the marks is packed. */
  units?: readonly string[];
  packed?: true;
  /** To whom the marks were shipped. */
  sales?: true;
  /** Whether an open recall has to do with the marks matters. */
  recalled?: true;
  /** Also whether the marks came in as opening stock before. */
  opened?: true;
  /** Also what is in these of the named marks; with `ever` what went in and came out again too. */
  asBuilt?: { hosts: readonly NamedMarks[]; ever?: true };
  /** Also what things cost. */
  costs?: true;
  /**
   * Where marks went that lie nowhere is only told where the booking is refused, never decided by:
   * it is read then. Thousands of parts that are in units lie nowhere.
   */
  goneIfRefused?: true;
}

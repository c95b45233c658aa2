import { EVENT_KINDS, eventKind } from '../../ledger/event-kinds.ts';
import type { MarkKind } from '../../catalogue/marking.ts';

/**
 * The genealogy and movements of a whole ledger in a few arrays of whole numbers, so that several
 * threads can read one copy.
 * Marks, transformations and events are found by their database ids directly; a hole in a sequence
 * costs the few bytes of its place.
 *
 * A *word* names nothing (0), one thing (its number + 1), or, with the highest bit set, where in
 * `lists` a list begins; the last of a list has the highest bit set.
 *
 * *Nodes* tie marks together: transformations under their own ids, behind them every serial within
 * a lot, then every component fitted, then every one taken out again.
 */
export interface PackedLedger {
  /**
   * By mark: product id × 4 + kind (1 lot, 2 serial, 3 bulk); 0 where there is no such mark. 16
   * bits where they suffice.
   */
  marks: Uint16Array | Uint32Array;
  /** By mark: words of the nodes it came out of, and of those it went into. */
  up: Uint32Array;
  down: Uint32Array;
  /** By mark: word of its entries. */
  moves: Uint32Array;
  lists: Uint32Array;

  /**
   * By node. `inputs` and `outputs` are the mark itself where the shape has one, otherwise where in
   * `sides` they begin.
   */
  shape: Uint32Array;
  event: Uint32Array;
  inputs: Uint32Array;
  outputs: Uint32Array;
  sides: Uint32Array;
  /**
   * Nodes before this one are transformations; from it on members; from `firstFitting` on fittings;
   * from `firstRemoval` on removals, whose input is the host.
   */
  firstMember: number;
  firstFitting: number;
  firstRemoval: number;
  /**
   * Shapes, each written once however many nodes have it: inputs, outputs, flags, the quantity of
   * each input, of each output, and with SHARED the share of each output.
   */
  shapes: Uint32Array;

  /** Micro-units by code, code 0 is nothing. */
  quantities: BigInt64Array;
  /** Shares of outputs, in 10⁻¹², by code. */
  shares: BigInt64Array;
  /**
   * Entries, each written once: event, place (0 where the event changed the mark and moved
   * nothing), quantity.
   */
  entries: Uint32Array;

  /**
   * By event. Kinds by their place in EVENT_KINDS; 0 where there is no such event. `undoes`: the
   * kind a reversal took back.
   */
  kinds: Uint8Array;
  undoes: Uint8Array;
  /** Microseconds since 2000-01-01 in UTC. */
  at: Float64Array;
  partners: Uint32Array;
  people: Uint32Array;
  /** Transformations that were taken back, ascending, and by which event. */
  reversed: Uint32Array;
  reversedBy: Uint32Array;
  /** Reversals, and the event each took back. */
  reversals: Uint32Array;
  undone: Uint32Array;
  /** By mark: the set of suppliers anything in it came from, as a place in `origins`. */
  origin: Uint16Array | Uint32Array;
  /** Sets of suppliers: how many, then their ids ascending. */
  origins: Uint32Array;
}

/** Flags of a shape. */
export const WITH_SHARES = 1,
  NUMBERED = 2,
  /** What went into all its outputs together, which are made by others of its event. */
  SHARED = 4;
export const IS_LIST = 0x8000_0000;
/** Most nodes, entries and list places: one bit of a word says that it is a list. */
export const MOST = 0x7fff_ffff;

const MARK_KINDS: readonly MarkKind[] = ['lot', 'serial', 'bulk'];
/** Kinds of event by their code; none has the code 0. */
export const KIND_OF_CODE: readonly string[] = kindsByCode();
function kindsByCode(): string[] {
  const kinds: string[] = [''];
  for (const [kind, { code }] of Object.entries(EVENT_KINDS)) kinds[code] = kind;
  return kinds;
}

/** The code of a kind of event. @throws on a kind the ledger does not have */
export function eventKindCode(kind: string): number {
  const code = eventKind(kind)?.code;
  if (!code) throw new Error(`There is no kind of event ${kind}.`);
  return code;
}

/** The arrays of a packed ledger by name; the rest of it are two plain numbers. */
export const arraysOf = (ledger: PackedLedger): [string, ArrayBufferView<ArrayBufferLike>][] =>
  Object.entries(ledger).filter((entry): entry is [string, ArrayBufferView<ArrayBufferLike>] =>
    ArrayBuffer.isView(entry[1])
  );

/** Bytes all arrays take. */
export const bytesOf = (ledger: PackedLedger): number =>
  arraysOf(ledger).reduce((sum, [, array]) => sum + array.byteLength, 0);

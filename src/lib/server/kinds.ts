import type { Circumstances, BookingKind } from './ledger/book.ts';
import { reverse } from './ledger/kinds.ts';
import { build, fit, repack, teardown } from './making/kinds.ts';
import { quality } from './quality/kinds.ts';
import { open, receive } from './receiving/kinds.ts';
import { goodsReturn, pack, ship } from './shipping/kinds.ts';
import { amend, correct, giveNumbers, move, revalue } from './stock/kinds.ts';

/**
 * Every kind of booking, in the order of the API document. One entry in its word's `kinds.ts` says
 * all of a kind: its path and schema, who may, what it reads, how it decides, which events it
 * writes. Routes, checks, the API document and the rights of routes are made from this table; what
 * an event of a kind means to a balance, to the trace and to EPCIS stands in
 * core/ledger/event-kinds.ts, and kinds.test.ts holds the two together.
 */
export const BOOKING_KINDS = [
  receive,
  open,
  build,
  repack,
  teardown,
  fit,
  reverse,
  ship,
  pack,
  goodsReturn,
  correct,
  move,
  giveNumbers,
  revalue,
  amend,
  quality
] as const;

/** A kind whose requests are known only by its schema. */
export type AnyKind = BookingKind<Circumstances>;

/** The kind of booking at a path such as `receipts`; null where there is none. */
export const kindAt = (path: string): AnyKind | null =>
  (BOOKING_KINDS as readonly unknown[] as readonly AnyKind[]).find((kind) => kind.path === path) ??
  null;

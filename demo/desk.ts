import type { BookingKind, Circumstances } from '../src/lib/server/ledger/book.ts';
import type { OrderKind } from '../src/lib/server/orders/schemas.ts';
/** Product and quantity; in another unit, and with announced numbers, where so. */
export type OrderedLine = [
  product: string,
  quantity: number,
  more?: { unit?: string; announced?: { lot?: string; serial?: string; expires?: string }[] }
];

/**
 * What the year needs of the world: bookings and orders at a day, by the person whose work it is.
 */
export interface Desk {
  /** Names outputs of a work order ahead. */
  name: (order: string, numbers: string[]) => Promise<void>;
  /** The calendar day so many days before the seeding. */
  day: (daysAgo: number) => string;
  order: (
    kind: OrderKind,
    number: string,
    daysAgo: { placed: number; due: number },
    partner: string | null,
    lines: OrderedLine[]
  ) => Promise<void>;
  book: <R extends Circumstances>(
    kind: BookingKind<R>,
    login: string,
    daysAgo: number,
    time: string,
    request: Omit<R, 'at'>
  ) => Promise<void>;
}

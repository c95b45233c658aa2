import { totalOf } from '../../core/quantity/quantity.ts';
import { count, sayCounted } from '../parts/say.ts';

interface Sums {
  /** Still open of each line by its order, on the sheet of it, and still to mark of it. */
  left: readonly string[];
  marked: readonly string[];
  toGo: readonly string[];
  /** What the booking takes in of each line. */
  booking: readonly string[];
}
/** What the foot of a sheet says of its lines together. */
export interface SheetTally {
  marked: string;
  of: string;
  what: string;
  toGo: string;
  /** What is open by the order, in words: `12`, or `3 lines`. */
  open: string;
  /** What is booked, in words: `12`, or `3 lines`. */
  books: string;
  /** What it does where it waits to be booked. */
  waits: 'waits' | 'wait';
}

const isSome = (amount: string): boolean => amount !== '0';
const some = (amounts: readonly string[]): number => amounts.filter(isSome).length;

const waitOf = (amount: string) => (amount === '1' ? 'waits' : 'wait');

/**
 * Lines of one unit are added up; kilograms and pieces make no sum, so lines of several units are
 * counted.
 */
export function tallyOf(units: readonly string[], sums: Sums): SheetTally {
  if (new Set(units).size <= 1) {
    const unit = units[0] ?? 'each';
    const books = totalOf(sums.booking);
    const of = totalOf(sums.left);
    return {
      marked: totalOf(sums.marked),
      of,
      what: unit === 'each' ? 'marked' : `${unit} marked`,
      toGo: totalOf(sums.toGo),
      open: sayCounted(of, unit),
      books: sayCounted(books, unit),
      waits: waitOf(books)
    };
  }
  const full = sums.left.filter((left, index) => isSome(left) && !isSome(sums.toGo[index]!));
  const booked = some(sums.booking);
  const open = some(sums.left);
  return {
    marked: String(full.length),
    of: String(open),
    what: 'lines marked',
    toGo: String(some(sums.toGo)),
    open: count(open, 'line'),
    books: count(booked, 'line'),
    waits: waitOf(String(booked))
  };
}

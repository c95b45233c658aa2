import { ZERO, type Quantity } from '../../quantity/quantity.ts';
import type { Cost, CostEvent, CostFitting, CostTie } from './cost-event.ts';
import { kept, mix } from './mix.ts';
import { spread } from './spread.ts';

/** What is known of marks while events pass one after the other. */
export interface CostBook {
  /** How much of a mark is ours, over all places. */
  lying: Map<number, Quantity>;
  costs: Map<number, Cost>;
}

export const emptyBook = (): CostBook => ({ lying: new Map(), costs: new Map() });

/** Kinds that bring goods from outside: without a cost, their cost is not known. */
const BRINGS: ReadonlySet<string> = new Set(['receive', 'opening']);
/** Kinds that find goods: without a cost, they are worth what the mark is. */
const FINDS: ReadonlySet<string> = new Set(['gain', 'count']);

/** One event being passed: what it says of marks whose cost it may change. */
interface Passing {
  book: CostBook;
  event: CostEvent;
  /** Marks whose cost of one it says, with what that was. */
  changed: Map<number, Cost>;
}

/**
 * Passes one event: what came in mixes with what lay there, what was made takes the cost of what
 * went into it, a part fitted adds to its unit. What leaves takes along what it cost and changes no
 * cost of one. The book is brought to after the event.
 * @returns marks whose cost of one the event says, with what it was before; and what was lost of
 * units taken apart, by unit, below zero where the parts are worth more
 */
export function takeCosts(
  book: CostBook,
  event: CostEvent
): { changed: ReadonlyMap<number, Cost>; worked: ReadonlyMap<number, Quantity> } {
  const passing: Passing = { book, event, changed: new Map() };
  const before = new Map([...event.net.keys()].map((mark) => [mark, lyingOf(book, mark)]));
  if (event.ties.length === 0) comeIn(passing);
  const worked = new Map<number, Quantity>();
  const shared = sharesOf(passing);
  for (const tie of event.ties.filter((one) => !one.shared)) {
    if (tie.apart) takeApart(passing, tie, worked);
    else make(passing, tie, shared);
  }
  for (const removal of event.removals) fitted(passing, removal, -1);
  for (const fitting of event.fittings) fitted(passing, fitting, 1);
  for (const [mark, cost] of event.told) put(passing, mark, cost);
  for (const [mark, moved] of event.net) book.lying.set(mark, before.get(mark)!.plus(moved));
  return { changed: passing.changed, worked };
}

const lyingOf = ({ lying }: CostBook, mark: number): Quantity => lying.get(mark) ?? ZERO;
const costOf = ({ costs }: CostBook, mark: number): Cost => costs.get(mark) ?? null;

function put({ book, changed }: Passing, mark: number, cost: Cost): void {
  if (!changed.has(mark)) changed.set(mark, book.costs.get(mark) ?? null);
  book.costs.set(mark, kept(cost));
}

function comeIn(passing: Passing): void {
  const { book, event } = passing;
  for (const [mark, moved] of event.net) {
    const told = event.costs.get(mark) ?? null;
    if (moved.lte(0)) continue;
    if (BRINGS.has(event.kind) || (FINDS.has(event.kind) && told))
      put(passing, mark, mix(lyingOf(book, mark), costOf(book, mark), moved, told));
    else if (!book.costs.has(mark)) put(passing, mark, null);
  }
}

/**
 * What went in is worth; null where one of it is not known, or lay nowhere then: what it came by was
 * taken back since, and nobody can say what it cost.
 */
const worthIn = (book: CostBook, { inputs }: CostTie): Cost =>
  inputs.some(({ mark, quantity }) => book.lying.get(mark)?.lt(quantity))
    ? null
    : worthOf(book, inputs);

/** What goods are worth; null where the cost of one of them is not known. */
function worthOf(book: CostBook, goods: readonly { mark: number; quantity: Quantity }[]): Cost {
  let sum = ZERO;
  for (const { mark, quantity } of goods) {
    const cost = costOf(book, mark);
    if (cost === null) return null;
    sum = sum.plus(cost.times(quantity));
  }
  return sum;
}

/** What each output takes of what went into several together: for one of it. */
function sharesOf({ book, event }: Passing): ReadonlyMap<number, Cost> {
  const of = new Map<number, Cost>();
  for (const tie of event.ties.filter((one) => one.shared)) {
    const amounts = spread(worthIn(book, tie), tie.outputs, event.costs);
    tie.outputs.forEach(({ mark, quantity }, at) => {
      const before = of.has(mark) ? of.get(mark)! : ZERO;
      const amount = amounts[at]!;
      of.set(mark, before === null || amount === null ? null : before.plus(amount.div(quantity)));
    });
  }
  return of;
}

function make(passing: Passing, tie: CostTie, shared: ReadonlyMap<number, Cost>): void {
  const { book, event } = passing;
  const amounts = spread(worthIn(book, tie), tie.outputs, event.costs);
  for (const { mark, quantity } of tie.inputs)
    if (book.lying.has(mark)) book.lying.set(mark, lyingOf(book, mark).minus(quantity));
  tie.outputs.forEach(({ mark, quantity, added }, at) => {
    const along = shared.has(mark) ? shared.get(mark)! : ZERO;
    const amount = amounts[at]!;
    const one =
      amount === null || along === null
        ? null
        : amount
            .div(quantity)
            .plus(along)
            .plus(added ?? ZERO);
    bring(passing, mark, quantity, one);
  });
}

function bring(passing: Passing, mark: number, quantity: Quantity, one: Cost): void {
  const { book } = passing;
  const lying = lyingOf(book, mark);
  put(passing, mark, mix(lying, costOf(book, mark), quantity, one));
  book.lying.set(mark, lying.plus(quantity));
}

/**
 * A unit taken apart: parts that are known come out at their own cost; those nobody had written down
 * take what is left of the unit’s, by weight. What is left then is lost, as work is.
 */
function takeApart(passing: Passing, tie: CostTie, worked: Map<number, Quantity>): void {
  const { book, event } = passing;
  const known = tie.outputs.filter(({ mark }) => book.costs.has(mark));
  const others = tie.outputs.filter(({ mark }) => !book.costs.has(mark));
  const worth = worthIn(book, tie);
  const out = worthOf(book, known);
  const left = worth === null || out === null ? null : worth.minus(out);
  const amounts = spread(left?.lt(0) ? ZERO : left, others, event.costs);
  others.forEach(({ mark, quantity }, at) =>
    bring(passing, mark, quantity, amounts[at]?.div(quantity) ?? null)
  );
  for (const { mark, quantity } of known) book.lying.set(mark, lyingOf(book, mark).plus(quantity));
  const lost = left !== null && (others.length === 0 || left.lt(0)) ? left : ZERO;
  const [unit] = tie.inputs;
  if (unit && !lost.isZero()) worked.set(unit.mark, (worked.get(unit.mark) ?? ZERO).plus(lost));
}

/** A part adds its cost to its unit, or takes it along when it comes out; a unit has no debts. */
function fitted(passing: Passing, { part, host, quantity }: CostFitting, sign: 1 | -1): void {
  const { book } = passing;
  const cost = costOf(book, host);
  const of = costOf(book, part);
  if (cost === null || of === null) return put(passing, host, null);
  const sum = cost.plus(of.times(quantity).times(sign));
  put(passing, host, sum.lt(0) ? ZERO : sum);
}

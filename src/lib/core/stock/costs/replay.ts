import { ZERO, type Quantity } from '../../quantity/quantity.ts';
import { costAfter, marksAsked, type Cost, type CostCourse, type CostEvent } from './cost-event.ts';
import { sameCost } from './mix.ts';
import { takeCosts, type CostBook } from './take-costs.ts';

/** The cost of one of a mark from an event on. */
export interface CostRow {
  mark: number;
  event: number;
  cost: Cost;
}

/** What a correction did to the value of a mark. */
export interface CostEntry {
  mark: number;
  before: Cost;
  after: Cost;
  lying: Quantity;
  /** What lies here is worth so much more, and what had left was; null where that is not known. */
  here: Quantity | null;
  gone: Quantity | null;
}

/** What stands of the marks a correction reaches, and what happened to them since. */
export interface CostHistory {
  marks: ReadonlySet<number>;
  /** Events that still hold, in the order they were booked; costs as they are told by now. */
  events: readonly CostEvent[];
  /** How much of each was ours before the first event, and what one cost. */
  lying: ReadonlyMap<number, Quantity>;
  costs: ReadonlyMap<number, Cost>;
  /** Costs as they stand since the first event, by mark, the earliest first. */
  stood: ReadonlyMap<number, CostCourse>;
  /** The cost of one of another mark just before an event. */
  outside: (mark: number, event: number) => Cost;
}

/** Events by which goods leave for good; with what comes back by them. */
const LEAVING: ReadonlySet<string> = new Set(['ship', 'return', 'loss', 'scrap', 'count']);

/**
 * Passes again what happened to marks, by what is told now, and says what that changes: the costs
 * that stand otherwise from some event on, and the value of what lies here and of what had left.
 */
export function replay(history: CostHistory): { rows: CostRow[]; entries: CostEntry[] } {
  const book: CostBook = { lying: new Map(history.lying), costs: new Map(history.costs) };
  const courses = new Map<number, { event: number; cost: Cost }[]>();
  const gone = new Map<number, Quantity | null>();
  for (const mark of history.marks) courses.set(mark, []);
  for (const event of history.events) {
    knowOutside(history, book, event);
    const { changed } = takeCosts(book, event);
    for (const mark of changed.keys())
      courses.get(mark)?.push({ event: event.id, cost: book.costs.get(mark) ?? null });
    takeLeaving(history, courses, event, gone);
  }
  const marks = [...history.marks];
  return {
    rows: marks.flatMap((mark) => rowsOf(history, mark, courses.get(mark)!)),
    entries: marks.flatMap((mark) => {
      const lying = book.lying.get(mark) ?? ZERO;
      return entryOf(history, mark, courses.get(mark)!, lying, gone.get(mark)) ?? [];
    })
  };
}

/** Marks that are not passed again count as they did then. */
function knowOutside({ marks, outside }: CostHistory, book: CostBook, event: CostEvent): void {
  for (const mark of marksAsked(event))
    if (!marks.has(mark)) book.costs.set(mark, outside(mark, event.id));
}

const first = ({ costs }: CostHistory, mark: number): Cost => costs.get(mark) ?? null;

const stoodAt = (history: CostHistory, mark: number, event: number): Cost =>
  costAfter(history.stood.get(mark), event, first(history, mark));

function takeLeaving(
  history: CostHistory,
  courses: ReadonlyMap<number, CostCourse>,
  { id, kind, net }: CostEvent,
  gone: Map<number, Quantity | null>
): void {
  if (!LEAVING.has(kind)) return;
  for (const [mark, moved] of net) {
    const course = courses.get(mark);
    if (!course || moved.isZero() || (kind === 'count' && moved.gt(0))) continue;
    const now = costAfter(course, id, first(history, mark));
    const then = stoodAt(history, mark, id);
    if (sameCost(now, then)) continue;
    const before = gone.has(mark) ? gone.get(mark)! : ZERO;
    const more = now === null || then === null ? null : now.minus(then).times(moved).negated();
    gone.set(mark, before === null || more === null ? null : before.plus(more));
  }
}

/** Rows for what stands otherwise now: at events that changed it, and where it stood before. */
function rowsOf(history: CostHistory, mark: number, course: CostCourse): CostRow[] {
  const standing = new Map((history.stood.get(mark) ?? []).map((one) => [one.event, one.cost]));
  const changed = course.map((one) => one.event);
  return [...new Set([...changed, ...standing.keys()])].flatMap((event) => {
    const cost = costAfter(course, event, first(history, mark));
    const same = standing.has(event) && sameCost(standing.get(event)!, cost);
    return same ? [] : [{ mark, event, cost }];
  });
}

function entryOf(
  history: CostHistory,
  mark: number,
  course: CostCourse,
  lying: Quantity,
  gone: Quantity | null | undefined
): CostEntry | null {
  const before = stoodAt(history, mark, Infinity);
  const after = costAfter(course, Infinity, first(history, mark));
  if (sameCost(before, after) && gone === undefined) return null;
  const here = before === null || after === null ? null : after.minus(before).times(lying);
  return { mark, before, after, lying, here, gone: gone === undefined ? ZERO : gone };
}

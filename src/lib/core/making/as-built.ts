import { groupBy } from '../group-by.ts';
import { formatQuantity, quantity, total, type Quantity } from '../quantity/quantity.ts';
import type { Bill } from '../catalogue/bill.ts';
import { compareWithBill, type PartVerdict } from '../catalogue/compare.ts';

/** A mark as the record shows it. Days are `YYYY-MM-DD`. */
export interface BuiltMark {
  id: number;
  product: string;
  name: string;
  unit: string;
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
  lot: string | null;
  expires: string | null;
  state: 'usable' | 'held' | 'rejected';
  supplier: string | null;
  supplierNumber: string | null;
}
/** What made marks of others: an event's transformation with its bill. */
export interface Making {
  id: number;
  /** What went into all its outputs together; they are made by others. */ shared: boolean;
  event: number;
  document: string;
  at: string;
  who: string;
  kind: string;
  bill: Bill | null;
  inputs: readonly { mark: number; quantity: string; position: string | null }[];
  outputs: readonly { mark: number; quantity: string }[];
  /** The outputs it counts for; all where nothing is said. */
  counts?: readonly { mark: number; quantity: string }[];
  /** It made nothing: a part was put into a unit, or taken out (below zero). */
  changesParts?: boolean;
}

/** One line of the record, a parent before its parts. Quantities are what of it is in the root. */
export interface AsBuiltLine {
  level: number;
  mark: BuiltMark | null;
  product: string;
  quantity: string;
  wanted: string | null;
  position: string | null;
  verdict: PartVerdict | null;
  instead: string | null;
  /** Drawn for more than this unit together: its share of it. */
  shared: boolean;
  making: {
    event: number;
    document: string;
    at: string;
    who: string;
    kind: string;
    bill: number | null;
  } | null;
  /** It stands further up already with all its parts. */
  repeated: boolean;
}
export interface AsBuilt {
  lines: AsBuiltLine[];
  /** Verdicts other than as billed, over all levels. */ counts: Partial<
    Record<PartVerdict, number>
  >;
  /** More than this many lines are not listed. */ cut: boolean;
}

export const MOST_LINES = 5000;

/**
 * The as-built record of a mark: what it was made of through all levels, each level compared with
 * its bill. What went into a lot is shown in the part of it that is in the root, by even mixing.
 * @param makings what made any of the marks and still holds, oldest first
 */
export function asBuilt(
  root: number,
  marks: ReadonlyMap<number, BuiltMark>,
  makings: readonly Making[]
): AsBuilt {
  const makingsOf = groupBy(
    makings.flatMap((making) =>
      (making.counts ?? making.outputs).map((output) => ({
        mark: output.mark,
        making,
        made: quantity(output.quantity)
      }))
    ),
    (row) => row.mark
  );
  const lines: AsBuiltLine[] = [];
  const counts: AsBuilt['counts'] = {};
  const told = new Set<number>();
  let cut = false;

  const rootMark = marks.get(root)!;
  add({
    level: 0,
    mark: rootMark,
    product: rootMark.product,
    quantity: formatQuantity(madeOf(root)),
    wanted: null,
    position: null,
    verdict: null,
    instead: null,
    shared: false,
    making: null,
    repeated: false
  });
  lines[0]!.making = sayMaking(root);
  down(root, madeOf(root), 1, new Set([root]));
  return { lines, counts, cut };

  function add(line: AsBuiltLine): void {
    if (lines.length >= MOST_LINES) {
      cut = true;
      return;
    }
    lines.push(line);
    if (line.verdict && line.verdict !== 'as the bill says')
      counts[line.verdict] = (counts[line.verdict] ?? 0) + 1;
  }

  /** How much was made of a mark; a unit that rework took in and gave back is one all the same. */
  function madeOf(mark: number): Quantity {
    const made = (makingsOf.get(mark) ?? []).filter((row) => !row.making.shared);
    return marks.get(mark)?.kind === 'serial' || made.length === 0
      ? quantity(1)
      : total(made.map((row) => row.made));
  }

  function sayMaking(mark: number): AsBuiltLine['making'] {
    const first = makingsOf
      .get(mark)
      ?.find(({ making }) => making.kind !== 'identify' && !making.changesParts)?.making;
    return first
      ? {
          event: first.event,
          document: first.document,
          at: first.at,
          who: first.who,
          kind: first.kind,
          bill: first.bill?.version ?? null
        }
      : null;
  }

  function down(mark: number, portion: Quantity, level: number, above: ReadonlySet<number>): void {
    const made = madeOf(mark);
    const share = made.isZero() ? quantity(0) : portion.div(made);
    const parts = new Map<
      number,
      { mark: BuiltMark; amount: Quantity; position: string | null; shared: boolean }
    >();
    let bill: Bill | null = null;
    for (const { making, made: own } of makingsOf.get(mark) ?? []) {
      if (making.kind === 'build') bill ??= making.bill;
      const all = total(making.outputs.map((output) => output.quantity).map(quantity));
      for (const input of making.inputs) {
        const part = marks.get(input.mark);
        if (!part || input.mark === mark) continue; // rework takes the unit itself in again
        const amount = quantity(input.quantity).times(own).div(all).times(share);
        const before = parts.get(part.id);
        parts.set(part.id, {
          mark: part,
          amount: before ? before.amount.plus(amount) : amount,
          position: input.position ?? before?.position ?? null,
          shared: (before?.shared ?? false) || making.shared
        });
      }
    }
    const inside = [...parts.values()].filter((part) => part.amount.gt(0));
    const used = new Map<string, Quantity>();
    for (const { mark: part, amount } of inside)
      used.set(part.product, (used.get(part.product) ?? quantity(0)).plus(amount));
    const compared = bill
      ? compareWithBill(
          bill,
          portion,
          new Map([...used].map(([code, amount]) => [code, amount.toDecimalPlaces(6)]))
        )
      : [];
    const asWhat = new Map<
      string,
      { verdict: PartVerdict; wanted: string; instead: string | null }
    >();
    for (const line of compared) {
      asWhat.set(line.product, { verdict: line.verdict, wanted: line.wanted, instead: null });
      for (const other of line.instead)
        asWhat.set(other.product, {
          verdict: 'alternate',
          wanted: line.wanted,
          instead: line.product
        });
      if (line.verdict === 'missing')
        add({
          level,
          mark: null,
          product: line.product,
          quantity: '0',
          wanted: line.wanted,
          position: null,
          verdict: 'missing',
          instead: null,
          shared: false,
          making: null,
          repeated: false
        });
    }
    const order = new Map(compared.map((line, index) => [line.product, index]));
    const sorted = inside.sort(
      (a, b) =>
        (order.get(a.mark.product) ?? 999) - (order.get(b.mark.product) ?? 999) ||
        compare(a.mark.product, b.mark.product) ||
        compare(a.position ?? a.mark.number ?? '', b.position ?? b.mark.number ?? '')
    );
    for (const { mark: part, amount, position, shared } of sorted) {
      const what = asWhat.get(part.product);
      const repeated = told.has(part.id) && (makingsOf.get(part.id)?.length ?? 0) > 0;
      add({
        level,
        mark: part,
        product: part.product,
        quantity: formatQuantity(amount.toDecimalPlaces(6)),
        wanted: what?.wanted ?? null,
        position,
        verdict: what?.verdict ?? null,
        instead: what?.instead ?? null,
        shared,
        making: sayMaking(part.id),
        repeated
      });
      told.add(part.id);
      if (!repeated && !above.has(part.id) && !cut)
        down(part.id, amount, level + 1, new Set([...above, part.id]));
    }
  }
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

import { quantity, total, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { Graph, Transformation } from './graph.ts';

/**
 * Iterations allowed for lots that loop through rework; each carries the rest once more round the
 * loop.
 */
const MOST_ROUNDS = 5000;
const ALL = [quantity(1)];
const CLOSE_ENOUGH = quantity('0.000000000000000000000001');

/**
 * How much of the root is inside each mark downstream, in the root's unit, by proportional mixing:
 *
 * content(o) = Σ over transformations T that made o: Σ inputs i of T: content(i) · used(i,T) /
 * total(i) · made(o,T) / Σ made(T)
 *
 * It assumes even mixing within a lot. Outputs share by quantity where they have one unit,
 * otherwise by the shares the build states, otherwise equally. The last output takes what rounding
 * leaves, so content is conserved exactly where nothing loops. Lots that loop through rework are
 * solved by carrying the rest round until nothing is left of it.
 *
 * @param root marks and their content to begin with; they keep it, whatever comes back to them
 * @param totals all that was ever received or made of a mark, in its own unit
 * @param unitOf the unit of a mark, to see whether outputs can share by quantity
 */
export function contentOf(
  graph: Graph,
  root: ReadonlyMap<number, Quantity>,
  totals: (mark: number) => Quantity,
  unitOf: (mark: number) => string
): Map<number, Quantity> {
  const sources = new Map<number, Source[]>();
  const waiting = new Map<Source, number>();
  const feeds = new Map<number, Source[]>();
  const allSources: Source[] = sourcesOf(graph);
  for (const source of allSources) {
    const from = new Set(source.from.map((input) => input.mark));
    waiting.set(source, from.size);
    for (const mark of from) add(feeds, mark, source);
    for (const { mark } of source.to) add(sources, mark, source);
  }
  const weights = new Map(allSources.map((source) => [source, weigh(source, unitOf)]));
  const content = new Map<number, Quantity>(root);
  const openSources = new Map<number, number>();
  for (const [mark, list] of sources) openSources.set(mark, new Set(list).size);

  // Everything that does not loop, in topological order: a mark is settled when all that feeds it
  // is.
  const settled = new Set<number>();
  const ready: number[] = [];
  const settle = (mark: number) => {
    if (!settled.has(mark)) {
      settled.add(mark);
      ready.push(mark);
    }
  };
  for (const mark of root.keys()) settle(mark);
  for (const mark of feeds.keys()) if (!sources.has(mark)) settle(mark);
  // A thousand units each take the same amount of the same lot: divide once. A settled mark's
  // content no longer changes.
  const taken = new Map<string, Quantity>();
  const taking = (mark: number, used: string): Quantity => {
    const key = `${mark} ${used}`;
    let amount = taken.get(key);
    if (!amount) taken.set(key, (amount = part(content.get(mark) ?? ZERO, used, totals(mark))));
    return amount;
  };
  const pour = (source: Source) => {
    const carried =
      source.from.length === 1
        ? taking(source.from[0]!.mark, source.from[0]!.quantity)
        : total(source.from.map((input) => taking(input.mark, input.quantity)));
    let left = carried;
    const shares = weights.get(source)!;
    source.to.forEach(({ mark }, index) => {
      const share = index === source.to.length - 1 ? left : carried.times(shares[index]!);
      if (index < source.to.length - 1) left = left.minus(share);
      if (root.has(mark)) return;
      const before = content.get(mark);
      content.set(mark, before ? before.plus(share) : share);
    });
  };
  const loose = new Set(allSources);
  for (let mark = ready.pop(); mark !== undefined; mark = ready.pop()) {
    for (const source of feeds.get(mark) ?? []) {
      const still = waiting.get(source)! - 1;
      waiting.set(source, still);
      if (still > 0) continue;
      pour(source);
      loose.delete(source);
      for (const to of new Set(source.to.map((output) => output.mark))) {
        const open = openSources.get(to)! - 1;
        openSources.set(to, open);
        if (open === 0) settle(to);
      }
    }
  }
  if (loose.size > 0) carryRound([...loose], content, root, weights, totals);
  return content;
}

/**
 * Anything that passes content on: a transformation, a lot to its serials, a component to its host.
 */
interface Source {
  from: { mark: number; quantity: string }[];
  to: { mark: number; quantity: string; share: string | null }[];
}

function sourcesOf(graph: Graph): Source[] {
  const sources: Source[] = graph.transformations.map((transformation: Transformation) => ({
    from: [...transformation.inputs],
    to: [...transformation.outputs]
  }));
  for (const { lot, serial } of graph.members)
    sources.push({
      from: [{ mark: lot, quantity: '1' }],
      to: [{ mark: serial, quantity: '1', share: null }]
    });
  for (const { component, host, quantity: fitted } of graph.fittings)
    sources.push({
      from: [{ mark: component, quantity: fitted }],
      to: [{ mark: host, quantity: '1', share: null }]
    });
  return sources;
}

/** The part each output takes; they add up to one. */
function weigh(source: Source, unitOf: (mark: number) => string): Quantity[] {
  const { to } = source;
  if (to.length === 1) return ALL;
  const unit = unitOf(to[0]!.mark);
  const byQuantity = to.every(({ mark }) => unitOf(mark) === unit);
  const amounts = byQuantity
    ? to.map((output) => quantity(output.quantity))
    : to.every((output) => output.share !== null)
      ? to.map((output) => quantity(output.share!))
      : to.map(() => quantity(1));
  const sum = total(amounts);
  return amounts.map((amount) => amount.div(sum));
}

const part = (content: Quantity, used: string, whole: Quantity): Quantity =>
  content.isZero() || whole.isZero() ? ZERO : content.times(used).div(whole);

/**
 * Marks in loops: what arrived is passed on, what comes back is passed on again, until the rest is
 * below any scale.
 */
function carryRound(
  loose: Source[],
  content: Map<number, Quantity>,
  root: ReadonlyMap<number, Quantity>,
  weights: ReadonlyMap<Source, Quantity[]>,
  totals: (mark: number) => Quantity
): void {
  let fresh = new Map(content);
  const outside = new Set(loose.flatMap((source) => source.from.map((input) => input.mark)));
  for (const mark of [...fresh.keys()]) if (!outside.has(mark)) fresh.delete(mark);
  for (let round = 0; round < MOST_ROUNDS && fresh.size > 0; round++) {
    const arriving = new Map<number, Quantity>();
    for (const source of loose) {
      const carried = total(
        source.from.map(({ mark, quantity: used }) =>
          part(fresh.get(mark) ?? ZERO, used, totals(mark))
        )
      );
      if (carried.abs().lt(CLOSE_ENOUGH)) continue;
      source.to.forEach(({ mark }, index) => {
        if (root.has(mark)) return;
        arriving.set(
          mark,
          (arriving.get(mark) ?? ZERO).plus(carried.times(weights.get(source)![index]!))
        );
      });
    }
    for (const [mark, amount] of arriving)
      content.set(mark, (content.get(mark) ?? ZERO).plus(amount));
    fresh = arriving;
  }
}

function add<V>(map: Map<number, V[]>, key: number, value: V): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

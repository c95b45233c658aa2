import { KIND_OF_CODE } from '../packed/packed-ledger.ts';
import type { BookedRows } from '../packed/booked-rows.ts';
import {
  fraction,
  isAbove,
  minus,
  over,
  plus,
  say,
  smaller,
  times,
  ZERO,
  type Fraction
} from './fraction.ts';
import {
  flowsOf,
  insideOf,
  modelReach,
  type Flow,
  type ModelQuestion,
  type Step
} from './model.ts';

const ONE = 1_000_000n;

interface Held {
  q: Fraction;
  c: Fraction;
}

/** Content of every mark reached, in the order of happening where that can be, else of booking. */
export function modelContent(question: ModelQuestion): {
  content: Map<number, string>;
  by: 'happened' | 'booked';
} {
  const { rows } = question;
  const { there, steps } = modelReach({ ...question, down: true });
  const ordered = [...rows.events].sort((a, b) => a.at - b.at || a.id - b.id);
  const first = replay(question, there, steps, ordered, true);
  if (first) return { content: first, by: 'happened' };
  const booked = [...rows.events].sort((a, b) => a.id - b.id);
  return { content: replay(question, there, steps, booked, false)!, by: 'booked' };
}

function replay(
  { rows, roots, from }: ModelQuestion,
  there: ReadonlyMap<number, unknown>,
  steps: readonly Step[],
  events: BookedRows['events'],
  strict: boolean
): Map<number, string> | null {
  const flows = flowsOf(rows);
  const markOf = (id: number) => rows.marks.find((row) => row.id === id)!;
  const isUnit = (mark: number) => markOf(mark).kind === 2;
  const members = new Set(
    flows.flatMap((f) =>
      f.kind === 'member' && roots.includes(f.ins[0]!.mark) ? f.outs[0]!.mark : []
    )
  );
  const root = (mark: number) => roots.includes(mark) || members.has(mark);
  const own = (mark: number) => !from && root(mark);
  const held = new Map<number, Held>(),
    told = new Map<number, Fraction>(),
    outside = new Map<string, Held>(),
    parts = new Map<number, Map<number, Held>>(),
    units = new Map<number, Fraction>(),
    log = new Map<string, Held>(),
    begun = new Set<number>();
  const at = <K>(map: Map<K, Held>, key: K): Held => {
    if (!map.has(key)) map.set(key, { q: ZERO, c: ZERO });
    return map.get(key)!;
  };
  const add = (h: Held, q: Fraction, c: Fraction) =>
    Object.assign(h, { q: plus(h.q, q), c: plus(h.c, c) });
  const tell = (mark: number, c: Fraction) => told.set(mark, plus(told.get(mark) ?? ZERO, c));
  const neg = (a: Fraction) => minus(ZERO, a);
  const part = (h: Held, q: Fraction) =>
    isAbove(h.q, ZERO) ? over(times(h.c, smaller(q, h.q)), h.q) : ZERO;
  const units6 = (micro: bigint) => fraction(micro, ONE);
  for (const event of events) {
    const kind = KIND_OF_CODE[event.kind]!;
    const mine = rows.movements.filter(
      (r) => r.event === event.id && r.place > 0 && there.has(r.mark)
    );
    const sum = (mark: number, sign: 1n | -1n) =>
      units6(
        mine.reduce(
          (all, r) => (r.mark === mark && r.quantity * sign > 0n ? all + r.quantity * sign : all),
          0n
        )
      );
    const marks = [...new Set(mine.map((r) => r.mark))];
    const here = flows
      .filter((f) => f.event === event.id && steps.some((s) => s.flow.id === f.id))
      .map((flow) => {
        const mySteps = steps.filter((s) => s.flow.id === flow.id);
        return {
          flow,
          ins: flow.ins.filter((r) => mySteps.some((s) => s.near === r.mark)),
          outs: flow.outs.filter((r) => mySteps.some((s) => s.far === r.mark))
        };
      });
    if (from?.has(event.id))
      for (const mark of marks)
        if (root(mark) && !begun.has(mark) && !isAbove(sum(mark, 1n), sum(mark, -1n))) {
          begun.add(mark);
          at(held, mark).c = at(held, mark).q;
          tell(mark, at(held, mark).q);
        }
    const start = new Map(marks.map((mark) => [mark, { ...at(held, mark) }]));
    const gives = (mark: number, q: Fraction): Fraction => {
      if (own(mark)) return q;
      const h = start.get(mark) ?? at(held, mark);
      return isAbove(h.q, ZERO) ? part(h, q) : h.c;
    };
    const used = new Map<number, Fraction>(),
      made = new Map<number, Fraction>(),
      gave = new Map<number, Fraction>();
    const bump = (map: Map<number, Fraction>, mark: number, q: Fraction) =>
      map.set(mark, plus(map.get(mark) ?? ZERO, q));
    const poured = here.map(({ flow, ins }) =>
      ins.map(({ mark, quantity }) => {
        const q = units6(quantity);
        if (flow.kind === 'member') return ZERO;
        if (flow.kind === 'removed') {
          const inHost = parts.get(mark)?.get(flow.outs[0]!.mark);
          const c = inHost ? part(inHost, q) : ZERO;
          if (inHost) add(inHost, neg(q), neg(c));
          add(at(held, mark), ZERO, neg(c));
          tell(mark, neg(c));
          return c;
        }
        const c = gives(mark, q);
        bump(used, mark, q);
        bump(gave, mark, c);
        add(at(held, mark), neg(q), neg(c));
        if (flow.kind === 'apart' && !own(mark)) tell(mark, neg(c));
        return c;
      })
    );
    for (const { flow, outs } of here)
      if (flow.kind !== 'member' && flow.kind !== 'fitted' && !flow.shared)
        for (const row of outs) bump(made, row.mark, units6(row.quantity));
    const into = new Map<number, Fraction>();
    for (const mark of marks) {
      const rest = minus(sum(mark, -1n), used.get(mark) ?? ZERO),
        back = minus(sum(mark, 1n), made.get(mark) ?? ZERO);
      const stays = smaller(rest, back),
        leaves = minus(rest, stays);
      into.set(mark, minus(back, stays));
      if (isAbove(leaves, ZERO)) {
        const earlier = event.undone ? log.get(`in ${event.undone} ${mark}`) : undefined;
        const c = earlier ? part(earlier, leaves) : gives(mark, leaves);
        add(at(held, mark), neg(leaves), neg(c));
        if (earlier) tell(mark, neg(c));
        if (kind === 'ship') add(at(outside, `${mark} ${event.partner}`), leaves, c);
        log.set(`out ${event.id} ${mark}`, { q: leaves, c });
      }
      if (strict && isAbove(ZERO, at(held, mark).q)) return null;
    }
    if (strict && [...used.keys()].some((mark) => isAbove(ZERO, at(held, mark).q))) return null;
    const known = new Set<number>();
    here.forEach(({ flow, ins, outs }, n) => {
      if (flow.kind === 'member') return;
      const all = poured[n]!.reduce(plus, ZERO);
      const inside =
        flow.kind === 'apart'
          ? insideOf(flows, flow.ins[0]!.mark, isUnit(flow.ins[0]!.mark), flow.event).parts
          : null;
      const shares = flow.kind === 'apart' && !own(ins[0]!.mark) ? apart() : spread(outs, all);
      outs.forEach((row, o) => {
        const itself =
          flow.kind === 'removed' || (!own(ins[0]!.mark) && (inside?.has(row.mark) ?? false));
        if (itself) known.add(row.mark);
        if (flow.kind !== 'fitted' && !flow.shared)
          add(at(held, row.mark), units6(row.quantity), ZERO);
        if (own(row.mark)) return;
        add(at(held, row.mark), ZERO, shares[o]!);
        const again = ins.some((r) => r.mark === row.mark) ? (gave.get(row.mark) ?? ZERO) : ZERO;
        if (!itself) tell(row.mark, minus(shares[o]!, again));
        if (flow.kind === 'made' || flow.kind === 'fitted') keep(row, shares[o]!);
      });

      function keep(row: Flow['outs'][number], share: Fraction): void {
        const whole = outs.reduce((s, r) => s + r.quantity, 0n);
        if (!parts.has(row.mark)) parts.set(row.mark, new Map());
        ins.forEach((input, i) => {
          if (input.mark === row.mark) return;
          const c = all.n === 0n ? ZERO : over(times(poured[n]![i]!, share), all);
          add(
            at(parts.get(row.mark)!, input.mark),
            fraction(input.quantity * row.quantity, whole * ONE),
            c
          );
        });
        if (flow.kind === 'made' && !flow.shared && !ins.some((r) => r.mark === row.mark))
          units.set(row.mark, plus(units.get(row.mark) ?? ZERO, units6(row.quantity)));
      }
      function apart(): Fraction[] {
        const host = flow.ins[0]!;
        const in1 = parts.get(host.mark) ?? new Map<number, Held>();
        const total = [...in1.values()].reduce((s, h) => plus(s, h.c), ZERO);
        const count = units.get(host.mark) ?? ZERO;
        const brings = outs.map((row) => {
          const h = in1.get(row.mark);
          if (!h || !isAbove(total, ZERO) || !isAbove(h.q, ZERO) || !isAbove(count, ZERO))
            return ZERO;
          const q = over(times(h.q, units6(host.quantity)), count);
          const given = over(times(all, h.c), total),
            out = units6(row.quantity);
          return isAbove(fraction(1n, ONE), minus(q, out)) ? given : over(times(given, out), q);
        });
        const rest = brings.reduce(minus, all);
        const strange = outs.filter((row) => !inside!.has(row.mark));
        spread(strange, rest).forEach((c, i) => (brings[outs.indexOf(strange[i]!)] = c));
        if (host.quantity === ONE) parts.delete(host.mark);
        return brings;
      }
    });
    for (const mark of marks) {
      const q = minus(sum(mark, 1n), plus(made.get(mark) ?? ZERO, ZERO));
      const comes = into.get(mark)!;
      if (!isAbove(comes, ZERO) || !isAbove(q, ZERO)) continue;
      let c = ZERO;
      if (kind === 'return') {
        const pool = at(outside, `${mark} ${event.partner}`);
        c = part(pool, comes);
        add(pool, neg(smaller(comes, pool.q)), neg(c));
      } else if (event.undone) {
        const earlier = log.get(`out ${event.undone} ${mark}`);
        if (earlier) c = part(earlier, comes);
        const undone = rows.events.find((e) => e.id === event.undone)!;
        if (earlier && KIND_OF_CODE[undone.kind] === 'ship')
          add(at(outside, `${mark} ${undone.partner}`), neg(comes), neg(c));
      } else if (from?.has(event.id) && root(mark)) {
        c = comes;
        tell(mark, c);
      }
      add(at(held, mark), comes, c);
      log.set(`in ${event.id} ${mark}`, { q: comes, c });
    }
    const born = here.filter(({ flow }) => flow.kind === 'member').map(({ flow }) => flow);
    for (const lot of new Set(born.map((f) => f.ins[0]!.mark))) {
      const serials = born.filter((f) => f.ins[0]!.mark === lot).map((f) => f.outs[0]!.mark);
      const h = at(held, lot);
      if (own(lot) || !isAbove(h.c, ZERO)) continue;
      const each = over(h.c, plus(h.q, fraction(BigInt(serials.length))));
      for (const serial of serials) {
        add(at(held, serial), ZERO, each);
        tell(serial, each);
        add(h, ZERO, neg(each));
      }
    }
    const undone = event.undone ? rows.events.find((e) => e.id === event.undone)! : null;
    const means = KIND_OF_CODE[(undone ?? event).kind]!;
    if (['receive', 'build', 'repack', 'teardown', 'identify', 'gain'].includes(means))
      for (const mark of marks) {
        const net = minus(sum(mark, 1n), sum(mark, -1n));
        if (own(mark) && !known.has(mark) && (undone ? isAbove(ZERO, net) : isAbove(net, ZERO)))
          tell(mark, net);
      }
  }
  for (const mark of told.keys())
    if (own(mark) && isUnit(mark)) told.set(mark, smaller(told.get(mark)!, fraction(1n)));
  for (const { kind, ins, outs } of flows)
    if (kind === 'member' && own(ins[0]!.mark) && own(outs[0]!.mark) && there.has(outs[0]!.mark))
      tell(ins[0]!.mark, told.get(outs[0]!.mark) ?? ZERO);
  return new Map([...told].map(([mark, c]) => [mark, say(c)]));

  function spread(outs: Flow['outs'], amount: Fraction): Fraction[] {
    const unit = (mark: number) => (markOf(mark).product === 3 ? 'kg' : 'each');
    const alike = outs.every((row) => unit(row.mark) === unit(outs[0]!.mark));
    const stated = outs.every((row) => row.share !== null);
    const weight = (row: Flow['outs'][number]) => {
      if (alike) return fraction(row.quantity);
      return fraction(stated ? row.share! : 1n);
    };
    const all = outs.map(weight).reduce(plus, ZERO);
    return outs.map((row) => over(times(amount, weight(row)), all));
  }
}

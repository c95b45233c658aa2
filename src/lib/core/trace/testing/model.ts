import { KIND_OF_CODE } from '../packed/packed-ledger.ts';
import type { BookedRows } from '../packed/booked-rows.ts';
import { fraction, isAbove, minus, over, plus, times, ZERO, type Fraction } from './fraction.ts';

/**
 * What a trace may claim, by the design's rules and nothing of the code: a list of events gone
 * through with fractions. Slow and plain, for small histories.
 */
export interface Flow {
  id: string;
  event: number;
  kind: 'made' | 'member' | 'fitted' | 'removed' | 'apart';
  /** Its outputs are made by others. */ shared?: boolean;
  ins: { mark: number; quantity: bigint }[];
  outs: { mark: number; quantity: bigint; share: bigint | null }[];
}
const ONE = 1_000_000n;

/** All that stands of what marks went through. */
export function flowsOf(rows: BookedRows): Flow[] {
  const gone = new Set(rows.takenBack.map((row) => row.transformation));
  const kindOf = (event: number) => KIND_OF_CODE[rows.events.find((e) => e.id === event)!.kind]!;
  const ties = rows.transformations.filter((tie) => !gone.has(tie.id));
  const numbered = (serial: number, lot: number) =>
    ties.some(
      (tie) =>
        tie.outputs.some((row) => row.mark === serial) && tie.inputs.some((row) => row.mark === lot)
    );
  const single = (mark: number, quantity: bigint) => [{ mark, quantity, share: null }];
  return [
    ...ties.map((tie): Flow => ({
      id: `t${tie.id}`,
      event: tie.event,
      kind: kindOf(tie.event) === 'teardown' ? 'apart' : 'made',
      shared: tie.shared,
      ins: tie.inputs,
      outs: tie.outputs
    })),
    ...rows.marks.flatMap((mark): Flow[] =>
      mark.lot > 0 && !numbered(mark.id, mark.lot)
        ? [
            {
              id: `m${mark.id}`,
              event: mark.birth,
              kind: 'member',
              ins: [{ mark: mark.lot, quantity: ONE }],
              outs: single(mark.id, ONE)
            }
          ]
        : []
    ),
    ...rows.fittings.map((row, n): Flow => ({
      id: `f${n}`,
      event: row.event,
      kind: 'fitted',
      ins: [{ mark: row.component, quantity: row.quantity }],
      outs: single(row.host, row.quantity)
    })),
    ...rows.removals.map((row, n): Flow => ({
      id: `r${n}`,
      event: row.event,
      kind: 'removed',
      ins: [{ mark: row.host, quantity: row.quantity }],
      outs: single(row.component, row.quantity)
    }))
  ];
}

/** What is in a host by the order of booking, before an event: part → quantity; of a lot all that ever went in. */
export function insideOf(
  flows: readonly Flow[],
  host: number,
  isUnit: boolean,
  event: number
): { parts: Map<number, Fraction>; made: Fraction } {
  let parts = new Map<number, Fraction>(),
    made = ZERO;
  const touching = flows
    .filter((flow) => flow.event < event && flow.kind !== 'member')
    .sort((a, b) => a.event - b.event);
  for (const { kind, ins, outs, shared } of touching) {
    const makes = outs.filter((row) => row.mark === host);
    const all = outs.reduce((sum, row) => sum + row.quantity, 0n);
    if ((kind === 'made' || kind === 'fitted') && makes.length > 0) {
      const share = fraction(makes[0]!.quantity, all);
      for (const { mark, quantity } of ins)
        if (mark !== host)
          parts.set(mark, plus(parts.get(mark) ?? ZERO, times(fraction(quantity), share)));
      if (kind === 'made' && !shared)
        made = isUnit ? fraction(ONE) : plus(made, fraction(makes[0]!.quantity));
    }
    const taken = ins.find((row) => row.mark === host);
    if (!taken) continue;
    if (kind === 'apart' && isUnit) parts = new Map();
    if (kind === 'removed' && parts.has(outs[0]!.mark)) {
      const left = minus(parts.get(outs[0]!.mark)!, fraction(taken.quantity));
      if (isUnit && isAbove(fraction(1n), left)) parts.delete(outs[0]!.mark);
      else parts.set(outs[0]!.mark, left);
    }
  }
  return { parts, made };
}

export interface ModelQuestion {
  rows: BookedRows;
  roots: readonly number[];
  down: boolean;
  from?: ReadonlySet<number>;
  /** Whether a root lot pulls in its serials upstream. */ pull?: boolean;
}
type Clock = readonly [happened: number, booked: number];
const before = (a: Clock, b: Clock): boolean => a[0] < b[0] && a[1] < b[1];

/** Something goes over from one mark to another. */
export interface Step {
  flow: Flow;
  near: number;
  far: number;
}
/** In a mark from, to; by which part; asked for which parts only. */
interface In {
  from: Clock;
  to: Clock | null;
  part: number | null;
  only: number[] | null;
}

export function modelReach({ rows, roots, down, from, pull = true }: ModelQuestion) {
  const flows = flowsOf(rows);
  const isUnit = (mark: number) => rows.marks.find((row) => row.id === mark)?.kind === 2;
  const clock = (event: number): Clock => [rows.events.find((e) => e.id === event)!.at, event];
  const inside = (host: number, event: number) => insideOf(flows, host, isUnit(host), event);
  const unaccounted = (flow: Flow, host: number): number[] => {
    const { parts, made } = inside(host, flow.event);
    const taken = flow.ins.find((row) => row.mark === host)!.quantity;
    return [...parts].flatMap(([part, quantity]) => {
      const there = made.n === 0n ? quantity : over(times(quantity, fraction(taken)), made);
      const out = flow.outs.find((row) => row.mark === part)?.quantity ?? 0n;
      return isAbove(fraction(1n), minus(there, fraction(out))) ? [] : [part];
    });
  };
  const closing = (flow: Flow, part: number, host: number): Clock | null => {
    if (!isUnit(host)) return null;
    const later = flows
      .filter(
        (one) =>
          (one.kind === 'apart' || one.kind === 'removed') &&
          one.event > flow.event &&
          one.ins.some((row) => row.mark === host)
      )
      .sort((a, b) => a.event - b.event)
      .find((one) => !inside(host, one.event + 0.5).parts.has(part));
    return later ? clock(later.event) : null;
  };
  const starts = (root: number): Clock => {
    const asked = rows.movements.filter(
      (row) => row.mark === root && row.place > 0 && from?.has(row.event)
    );
    const at = asked.map((row) => clock(row.event));
    const pick = (n: 0 | 1) => Math[down ? 'min' : 'max'](...at.map((one) => one[n]));
    if (at.length > 0) return [pick(0), pick(1)];
    const own = flows.filter((flow) => [...flow.ins, ...flow.outs].some((r) => r.mark === root));
    const last = own.sort((a, b) => b.event - a.event)[0];
    if (!down && isUnit(root) && last?.kind === 'apart' && last.ins.some((r) => r.mark === root))
      return clock(last.event);
    return down ? [-Infinity, -Infinity] : [Infinity, Infinity];
  };
  const there = new Map<number, In[]>();
  const put = (mark: number, one: In): boolean => {
    const known = there.get(mark) ?? [];
    if (known.some((other) => JSON.stringify(other) === JSON.stringify(one))) return false;
    there.set(mark, [...known, one]);
    return true;
  };
  const whole = (at: Clock): In => ({ from: at, to: null, part: null, only: null });
  const pulled = (root: number) =>
    pull ? rows.marks.filter((m) => m.lot === root).map((m) => m.id) : [];
  for (const root of roots) {
    put(root, whole(starts(root)));
    if (!down) for (const serial of pulled(root)) put(serial, whole(starts(root)));
  }
  const covers = (one: In, at: Clock): boolean =>
    down ? !before(at, one.from) && !(one.to && before(one.to, at)) : !before(one.from, at);
  const steps = new Map<string, Step>();
  for (let grew = true; grew;) {
    grew = false;
    for (const flow of flows) {
      const at = clock(flow.event);
      for (const { mark: near } of down ? flow.ins : flow.outs)
        for (const { mark: far } of down ? flow.outs : flow.ins) {
          const clear = (there.get(near) ?? []).filter((one) => covers(one, at));
          const comes = clear.length > 0 && goes(flow, near, far, clear, at);
          if (!comes) continue;
          steps.set(`${flow.id} ${near} ${far}`, { flow, near, far });
          if (comes !== 'itself' && put(far, comes)) grew = true;
        }
    }
  }
  return { there, steps: [...steps.values()], counts, levels: levels() };

  function goes(
    flow: Flow,
    near: number,
    far: number,
    clear: In[],
    at: Clock
  ): In | 'itself' | null {
    const parted = flows.some(
      (one) =>
        (one.kind === 'apart' || one.kind === 'removed') && one.ins.some((row) => row.mark === near)
    );
    if (near === far && parted) return 'itself';
    if (flow.kind === 'member') return whole(at);
    if (flow.kind === 'removed' || flow.kind === 'apart') {
      const host = down ? near : far,
        part = down ? far : near;
      if (flow.kind === 'removed' && !down) return null;
      const known = flow.kind === 'removed' || inside(host, flow.event).parts.has(part);
      const left = flow.kind === 'removed' ? [] : unaccounted(flow, host);
      if (!down) return known ? null : { ...whole(at), only: left };
      if (clear.some((one) => one.part === null)) return whole(at);
      if (!known && clear.some((one) => left.includes(one.part!))) return whole(at);
      return clear.some((one) => one.part === far) ? 'itself' : null;
    }
    if (down) return { from: at, to: closing(flow, near, far), part: near, only: null };
    const closed = closing(flow, far, near);
    const asked = clear.some(
      (one) => (!one.only || one.only.includes(far)) && !(closed && before(closed, one.from))
    );
    return asked ? whole(at) : null;
  }
  function counts(mark: number, event: number): boolean {
    return (there.get(mark) ?? []).some((one) => covers(one, clock(event)));
  }
  function levels(): Map<number, number> {
    const found = new Map(roots.map((root) => [root, 0]));
    for (let level = 1, grew = true; grew; level++) {
      grew = false;
      const next = [...steps.values()].flatMap((s) =>
        found.get(s.near) === level - 1 ? s.far : []
      );
      const in1 = !down && level === 1 ? roots.flatMap(pulled) : [];
      for (const mark of [...next, ...in1])
        if (!found.has(mark)) {
          found.set(mark, level);
          grew = true;
        }
    }
    return found;
  }
}

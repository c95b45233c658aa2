import { atOrAfter, BEGINNING, earliest, END, latest, sameClock, type Clock } from './clock.ts';
import type { Direction, Graph } from './graph.ts';
import { fittingKey, partKey, passagesOf, presences, type Passage } from './passages.ts';
import { sameParts, type Presence } from './presence.ts';

export interface WalkQuestion {
  graph: Graph;
  /** All that stands of the hosts that something was taken out of, on either side of them. */
  hosts: Graph;
  roots: readonly number[];
  direction: Direction;
  /** The clocks of every event of the graph. */
  clockOf: (event: number) => Clock;
  /** Where the trace of a root starts, if not at the beginning or the end of time. */
  start: ReadonlyMap<number, Clock>;
  /** Whether a mark is one unit, and not a quantity of alike. */
  single: (mark: number) => boolean;
  /** The serials within root lots, those too that a transformation ties to them. */
  serialsOf?: ReadonlyMap<number, readonly number[]>;
  /** Whether a root lot pulls in its serials upstream; it does where nothing is said. */
  pullIn?: boolean;
  /** What was prepared for other walks of the same graph. */
  prepared?: PreparedWalk;
}

/** A graph made ready to be walked one way, many times. */
export interface PreparedWalk {
  passages: readonly Passage[];
  ofHosts: readonly Passage[];
  stays: ReadonlyMap<number, Presence>;
  doors: ReadonlyMap<number, Passage[]>;
}

export function prepareWalk(
  graph: Graph,
  hosts: Graph,
  direction: Direction,
  single: (mark: number) => boolean
): PreparedWalk {
  const passages = passagesOf(graph),
    ofHosts = passagesOf(hosts);
  return {
    passages,
    ofHosts,
    stays: presences(ofHosts, single),
    doors: doorsOf(passages, direction === 'downstream')
  };
}

export interface WalkedInTime {
  /** The level of every mark reached, in the order of the walk. */
  levels: Map<number, number>;
  /** The part of the graph that was gone through. */
  graph: Graph;
  /** Whether what a mark did in an event belongs to the trace: downstream, the goods were in it. */
  counts: (mark: number, event: number) => boolean;
}

/**
 * Something traced was in a mark from one time to another: downstream, from the arrival on;
 * upstream the mark was looked into at one time.
 */
interface Stay {
  from: Clock;
  /** When it came out again; null while it is in. */
  to: Clock | null;
  /** The part by which it is in: null where the mark as a whole is suspect. */
  through: number | null;
  /** Upstream: the only parts that are asked for; null for all. */
  only: ReadonlySet<number> | null;
}

const before = (one: Clock, other: Clock): boolean => !atOrAfter(one, other);

/**
 * Walks by both clocks: a taking is cleared of what came into its mark later by the one and the
 * other, or had left it before by both. Upstream is the mirror. A serial of a root lot is the root.
 * Source: design, time and parts.
 */
export function walkInTime(question: WalkQuestion): WalkedInTime {
  const { direction, graph, roots, clockOf } = question;
  const down = direction === 'downstream';
  const rootSerials = rootMembers(question);
  const { walked, gone } = new WalkInTime(question).walk(rootSerials);
  return {
    levels: levelsOf(roots, gone, rootSerials, down),
    graph: partOf(graph, gone, down),
    counts: (mark, event) =>
      (walked.get(mark) ?? []).some((stay) => covers(stay, clockOf(event), down))
  };
}

/**
 * The marks on either side of what was gone through, and which led to which: of a unit built, taken
 * apart and built again, not all that went into its batch leads on from it.
 */
type Sides = { near: Map<number, Set<number>>; far: Set<number> };

class WalkInTime {
  readonly walked = new Map<number, Stay[]>();
  readonly gone = new Map<Passage, Sides>();
  private readonly waiting: number[] = [];
  private readonly down: boolean;
  private readonly stays: ReadonlyMap<number, Presence>;
  private readonly doors: ReadonlyMap<number, Passage[]>;
  private readonly ofHosts: readonly Passage[];

  constructor(private readonly question: WalkQuestion) {
    const { graph, hosts, direction, single } = question;
    const ready = question.prepared ?? prepareWalk(graph, hosts, direction, single);
    this.down = direction === 'downstream';
    this.stays = ready.stays;
    this.doors = ready.doors;
    this.ofHosts = ready.ofHosts;
  }

  walk(rootSerials: ReadonlyMap<number, ReadonlySet<number>>): this {
    const { roots, start } = this.question;
    for (const root of roots) {
      const plain = this.down ? BEGINNING : lookedAt(root, this.ofHosts, this.question);
      const from = start.get(root) ?? plain;
      this.arrive(root, whole(from));
      if (!this.down)
        for (const serial of rootSerials.get(root) ?? []) this.arrive(serial, whole(from));
    }
    for (let mark = this.waiting.pop(); mark !== undefined; mark = this.waiting.pop())
      for (const passage of this.doors.get(mark) ?? []) this.step(mark, passage);
    return this;
  }

  private clockOf(event: number): Clock {
    return this.question.clockOf(event);
  }

  private arrive(mark: number, stay: Stay): void {
    const known = this.walked.get(mark) ?? [];
    if (known.some((one) => sameStay(one, stay))) return;
    const isHost = this.stays.has(mark);
    // Where nothing ever came out, the outermost clocks say all that many stays would.
    const merged = isHost || known.length === 0 ? stay : outermost(known[0]!, stay, this.down);
    if (known.length > 0 && !isHost && sameStay(merged, known[0]!)) return;
    this.walked.set(mark, isHost ? [...known, stay] : [merged]);
    this.waiting.push(mark);
  }

  private step(mark: number, passage: Passage): void {
    const at = this.clockOf(passage.event);
    const clear = (this.walked.get(mark) ?? []).filter((stay) => covers(stay, at, this.down));
    if (clear.length === 0) return;
    const far = this.down ? passage.outs : passage.ins;
    for (const { mark: other } of far) {
      const stay = this.flows(clear, mark, other, passage, at);
      if (!stay) continue;
      const sides: Sides = this.gone.get(passage) ?? { near: new Map(), far: new Set() };
      this.gone.set(passage, sides);
      sides.near.set(mark, (sides.near.get(mark) ?? new Set()).add(other));
      sides.far.add(other);
      if (stay !== 'itself') this.arrive(other, stay);
    }
  }

  /** A unit reworked keeps what it had, as it had it. */
  private flows(
    clear: readonly Stay[],
    mark: number,
    other: number,
    passage: Passage,
    at: Clock
  ): Stay | 'itself' | null {
    if (mark === other && this.stays.has(mark)) return 'itself';
    return this.down
      ? this.flowsDown(clear, mark, other, passage, at)
      : this.flowsUp(clear, mark, other, passage, at);
  }

  /**
   * What comes into `other` by a passage out of `mark`; null where nothing traced does, *itself*
   * where a suspect part comes out of a unit as what it was before.
   */
  private flowsDown(
    clear: readonly Stay[],
    mark: number,
    other: number,
    passage: Passage,
    at: Clock
  ): Stay | 'itself' | null {
    if (passage.type === 'member') return whole(at);
    if (!passage.separates)
      return { from: at, to: this.closing(passage, mark, other), through: mark, only: null };
    if (clear.some((stay) => this.passesApart(stay, mark, other, passage))) return whole(at);
    return clear.some((stay) => stay.through === other) ? 'itself' : null;
  }

  private passesApart(stay: Stay, mark: number, other: number, passage: Passage): boolean {
    if (stay.through === null) return true;
    if (passage.type === 'removed') return false;
    const { inside, unaccounted } = this.apartOf(passage, mark);
    return !inside.has(other) && unaccounted.has(stay.through);
  }

  /** How `other` is looked into from `mark`, which came out of it or was made of it. */
  private flowsUp(
    clear: readonly Stay[],
    mark: number,
    other: number,
    passage: Passage,
    at: Clock
  ): Stay | null {
    if (passage.type === 'member') return whole(at);
    if (passage.separates) {
      if (passage.type === 'removed') return null;
      const { inside, unaccounted } = this.apartOf(passage, other);
      return inside.has(mark) ? null : { from: at, to: null, through: null, only: unaccounted };
    }
    const closed = this.closing(passage, other, mark);
    const there = clear.some(
      (stay) =>
        (stay.only === null || stay.only.has(other)) && !(closed && before(closed, stay.from))
    );
    return there ? { from: at, to: null, through: null, only: null } : null;
  }

  private closing(passage: Passage, part: number, host: number): Clock | null {
    const event = this.stays.get(host)?.closedBy.get(partKey(passage.key, part, host));
    return event === undefined ? null : this.clockOf(event);
  }
  private apartOf(passage: Passage, host: number) {
    return this.stays.get(host)?.apart.get(passage.key) ?? NOTHING_KNOWN;
  }
}

const NOTHING_KNOWN: NonNullable<ReturnType<Presence['apart']['get']>> = {
  inside: new Set(),
  unaccounted: new Set()
};
const whole = (from: Clock): Stay => ({ from, to: null, through: null, only: null });

/** Downstream, whether the traced goods were in it then; upstream, whether it is asked back to it. */
function covers(stay: Stay, at: Clock, down: boolean): boolean {
  if (!down) return !before(stay.from, at);
  return !before(at, stay.from) && !(stay.to && before(stay.to, at));
}

/**
 * The time a unit is looked at upstream: now; for one that was taken apart and is no more, when
 * that was done.
 */
function lookedAt(root: number, passages: readonly Passage[], { clockOf, single }: WalkQuestion) {
  if (!single(root)) return END;
  const touching = passages
    .filter((one) => [...one.ins, ...one.outs].some((row) => row.mark === root))
    .sort((a, b) => b.event - a.event);
  const [last] = touching;
  const ended =
    last?.separates && last.type === 'made' && last.ins.some((row) => row.mark === root);
  return ended ? clockOf(last.event) : END;
}

function rootMembers({ graph, roots, serialsOf, pullIn }: WalkQuestion): Map<number, Set<number>> {
  const found = new Map(roots.map((root) => [root, new Set(serialsOf?.get(root) ?? [])]));
  if (pullIn === false) return new Map();
  for (const { lot, serial } of graph.members) found.get(lot)?.add(serial);
  return found;
}

const outermost = (one: Stay, other: Stay, down: boolean): Stay => ({
  ...one,
  from: down ? earliest(one.from, other.from) : latest(one.from, other.from)
});

function sameStay(one: Stay, other: Stay): boolean {
  const ends =
    one.to === other.to || (one.to !== null && other.to !== null && sameClock(one.to, other.to));
  const only = sameParts(one.only, other.only);
  return sameClock(one.from, other.from) && ends && one.through === other.through && only;
}

/** Passages by the marks they are entered from. */
function doorsOf(passages: readonly Passage[], down: boolean): Map<number, Passage[]> {
  const doors = new Map<number, Passage[]>();
  for (const passage of passages)
    for (const { mark } of down ? passage.ins : passage.outs) {
      const list = doors.get(mark);
      if (!list) doors.set(mark, [passage]);
      else if (list.at(-1) !== passage) list.push(passage);
    }
  return doors;
}

/** Breadth first over what was gone through. */
function levelsOf(
  roots: readonly number[],
  gone: ReadonlyMap<Passage, Sides>,
  rootSerials: ReadonlyMap<number, ReadonlySet<number>>,
  down: boolean
): Map<number, number> {
  const next = new Map<number, Set<number>[]>();
  for (const { near } of gone.values())
    for (const [mark, far] of near) {
      const of = next.get(mark);
      if (of) of.push(far);
      else next.set(mark, [far]);
    }
  const levels = new Map(roots.map((root) => [root, 0]));
  let frontier = [...roots];
  for (let level = 1; frontier.length > 0; level++) {
    const reached: number[] = [];
    const visit = (mark: number): void => {
      if (levels.has(mark)) return;
      levels.set(mark, level);
      reached.push(mark);
    };
    for (const mark of frontier) {
      for (const far of next.get(mark) ?? []) far.forEach(visit);
      if (!down && level === 1) rootSerials.get(mark)?.forEach(visit);
    }
    frontier = reached;
  }
  return levels;
}

/** What of the graph was gone through, sides that were not left out. */
function partOf(graph: Graph, gone: ReadonlyMap<Passage, Sides>, down: boolean): Graph {
  type Side = Pick<ReadonlySet<number>, 'has'>;
  const kept = new Map<string, { from: Side; to: Side }>(
    [...gone].map(([passage, { near, far }]) => [
      passage.key,
      down ? { from: near, to: far } : { from: far, to: near }
    ])
  );
  return {
    transformations: graph.transformations.flatMap((one) => {
      const sides = kept.get(`t${one.id}`);
      if (!sides) return [];
      return {
        ...one,
        inputs: one.inputs.filter((row) => sides.from.has(row.mark)),
        outputs: one.outputs.filter((row) => sides.to.has(row.mark))
      };
    }),
    members: graph.members.filter((row) => kept.has(`m${row.serial}`)),
    fittings: graph.fittings.filter((row) => kept.has(fittingKey('f', row))),
    removals: graph.removals?.filter((row) => kept.has(fittingKey('r', row))) ?? []
  };
}

import { add, nothing, partOf, type Held } from './held.ts';
import type { LoadedNode, OpenLedger } from './open-ledger.ts';
import type { PackedCut, Reached } from './reached.ts';

export const ONE = 1_000_000n;
/** Shares of quantities within a unit are kept so much finer than micro-units. */
const FINE = 10n ** 24n;

/** What is asked of content. */
export interface ContentQuestion {
  ledger: OpenLedger;
  reached: Reached;
  cut: PackedCut;
  /** By place: 1 where the mark is the root through and through. */
  own: Uint8Array;
  /** A number for the unit of a product, to see whether outputs can share by quantity. */
  unitOf: (product: number) => number;
}

/**
 * What went into the units of a trace, part for part, and what each part brings with it when it
 * comes out. It looks at the node its owner has loaded.
 */
export class PartsInside {
  private readonly parts = new Map<number, Map<number, Held>>();
  private readonly madeOf = new Map<number, bigint>();

  constructor(
    private readonly question: ContentQuestion,
    private readonly node: LoadedNode,
    private readonly isOwn: (place: number) => boolean
  ) {}

  private place(mark: number): number {
    return this.question.reached.placeOf[mark]! - 1;
  }

  /** What a part taken out of its host brings with it. */
  takeOut(host: number): bigint {
    const { node } = this;
    const inside = this.parts.get(host)?.get(node.outputs[node.outAt]!);
    if (!inside || inside.quantity <= 0n) return 0n;
    const amount = this.question.ledger.micro(node.inCodes[node.inCodesAt]!) * FINE;
    const content = partOf(inside, amount);
    inside.quantity -= amount;
    inside.content -= content;
    return content;
  }

  /** Shares among outputs: by quantity where they have one unit, by stated shares, or equally. */
  spread(outs: readonly number[], amount: bigint): bigint[] {
    if (outs.length === 1) return [amount];
    const weights = weightsOf(outs, this.node, this.question, (o) => this.outMicro(o));
    let sum = 0n;
    for (const weight of weights) sum += weight;
    let left = amount;
    return weights.map((weight, n) => {
      const part = n === weights.length - 1 ? left : (amount * weight) / sum;
      left -= part;
      return part;
    });
  }

  apart(id: number, outs: readonly number[], carried: bigint): bigint[] {
    const { node } = this;
    const { reached, ledger } = this.question;
    if (node.type === 'removed') return [carried];
    const host = node.inputs[node.inAt]!,
      place = this.place(host);
    const known = reached.presenceOf(host).apart.get(String(id));
    if (this.isOwn(place) || !known) return this.spread(outs, carried);
    const inside = this.parts.get(place) ?? new Map<number, Held>();
    let sum = 0n;
    for (const part of inside.values()) sum += part.content;
    const units = this.madeOf.get(place) ?? 0n,
      taken = ledger.micro(node.inCodes[node.inCodesAt]!);
    let rest = carried;
    const brings = outs.map((o) => {
      const part = inside.get(node.outputs[node.outAt + o]!);
      if (!part || sum <= 0n || part.quantity <= 0n || units <= 0n) return 0n;
      const amount = this.outMicro(o) * FINE,
        there = (part.quantity * taken) / units;
      // What is left of a share that has no finite decimal is less than the ledger keeps: all came out.
      const brought =
        there - amount < FINE
          ? (carried * part.content) / sum
          : (carried * part.content * amount * units) / (sum * part.quantity * taken);
      rest -= brought;
      return brought;
    });
    const unknown = outs.filter((o) => !known.inside.has(node.outputs[node.outAt + o]!));
    const shares = unknown.length === 0 ? [] : this.spread(unknown, rest);
    unknown.forEach((o, n) => (brings[outs.indexOf(o)] = shares[n]!));
    if (taken === ONE) this.parts.delete(place);
    return brings;
  }

  isKnownPart(id: number, mark: number): boolean {
    const { node } = this;
    if (node.type === 'removed') return true;
    const host = node.inputs[node.inAt]!;
    if (this.isOwn(this.place(host))) return false;
    const known = this.question.reached.presenceOf(host).apart.get(String(id));
    return known?.inside.has(mark) ?? false;
  }

  /** What went into a unit that is taken apart one day. */
  remember(
    place: number,
    host: number,
    o: number,
    outs: readonly number[],
    given: readonly bigint[],
    share: bigint,
    carried: bigint
  ): void {
    const { ledger } = this.question;
    if (!ledger.isSeparated(host)) return;
    const { node } = this;
    const inside = this.parts.get(place) ?? new Map<number, Held>();
    this.parts.set(place, inside);
    for (let i = 0; i < node.ins; i++) {
      const mark = node.inputs[node.inAt + i]!;
      if (mark === host) continue;
      const part = inside.get(mark) ?? nothing();
      inside.set(mark, part);
      const content = carried === 0n ? 0n : (given[i]! * share) / carried;
      add(part, this.quantityShare(i, o, outs), content);
    }
    if (node.type !== 'fitted' && !node.shared && !this.isInput(host))
      this.madeOf.set(place, (this.madeOf.get(place) ?? 0n) + this.outMicro(o));
  }

  /** How much of an input went into one output. */
  quantityShare(i: number, o: number, outs: readonly number[]): bigint {
    const { node } = this;
    const amount = this.question.ledger.micro(node.inCodes[node.inCodesAt + i]!);
    if (outs.length === 1) return amount * FINE;
    let all = 0n;
    for (const one of outs) all += this.outMicro(one);
    return (amount * this.outMicro(o) * FINE) / all;
  }

  outMicro(o: number): bigint {
    const { node } = this;
    // A part comes out in the quantity the removal states; its one output says no more.
    const code =
      node.type === 'removed' || node.type === 'fitted'
        ? node.inCodes[node.inCodesAt]!
        : node.outCodes[node.outCodesAt + o]!;
    return this.question.ledger.micro(code);
  }

  isInput(mark: number): boolean {
    const { node } = this;
    for (let i = 0; i < node.ins; i++) if (node.inputs[node.inAt + i] === mark) return true;
    return false;
  }
}

function weightsOf(
  outs: readonly number[],
  node: LoadedNode,
  { ledger, unitOf }: ContentQuestion,
  micro: (o: number) => bigint
): bigint[] {
  const units = outs.map((o) => unitOf(ledger.productOf(node.outputs[node.outAt + o]!)));
  if (units.every((unit) => unit === units[0])) return outs.map(micro);
  const { shares } = node;
  if (!shares || outs.some((o) => shares[node.sharesAt + o] === 0)) return outs.map(() => 1n);
  return outs.map((o) => ledger.share(shares[node.sharesAt + o]!));
}

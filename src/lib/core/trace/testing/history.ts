import fc from 'fast-check';
import { eventKindCode } from '../packed/packed-ledger.ts';
import { noRows, type BookedRows } from '../packed/booked-rows.ts';

/** A whole small ledger as rows. */
export interface SmallLedger {
  rows: BookedRows;
  marks: number;
}

export const ONE = 1_000_000n;
const KINDS = [
  'receive',
  'receive',
  'receive',
  'build',
  'build',
  'build',
  'build',
  'unit',
  'unit',
  'batch',
  'series',
  'rework',
  'teardown',
  'teardown',
  'fit',
  'remove',
  'identify',
  'ship',
  'ship',
  'return',
  'scrap',
  'gain',
  'loss',
  'shift',
  'hold',
  'reverse',
  'reverse'
] as const;

/** What is drawn for one booking: what it is, whom it takes, how much, when. */
export const anyAct = fc.record({
  kind: fc.constantFrom(...KINDS),
  picks: fc.array(fc.nat(), { minLength: 3, maxLength: 3 }),
  parts: fc.array(fc.integer({ min: 1, max: 100 }), { minLength: 3, maxLength: 3 }),
  amount: fc.integer({ min: 1, max: 3_000_000 }),
  coin: fc.nat({ max: 11 }),
  late: fc.oneof({ weight: 3, arbitrary: fc.constant(-1) }, fc.nat({ max: 30 }))
});
export type Act = typeof anyAct extends fc.Arbitrary<infer T> ? T : never;

/** A ledger in the making, that refuses nothing: whoever books looks first at what is there. */
export class History {
  readonly rows: BookedRows = noRows();
  protected readonly stock = new Map<number, bigint>();
  protected readonly atPlace = new Map<string, bigint>();
  protected readonly outside: { mark: number; partner: number; quantity: bigint }[] = [];
  protected act!: Act;

  protected event(kind: string, partner = 0, undone = 0): number {
    const id = this.rows.events.length + 1;
    const at = this.act.late >= 0 ? this.act.late : id;
    const undoes = undone ? this.rows.events[undone - 1]!.kind : 0;
    this.rows.events.push({
      id,
      kind: eventKindCode(kind),
      undoes,
      undone,
      at,
      partner,
      person: 1
    });
    return id;
  }
  protected move(event: number, mark: number, quantity: bigint, place = 1): void {
    this.stock.set(mark, (this.stock.get(mark) ?? 0n) + quantity);
    const here = this.atPlace.get(`${mark} ${place}`) ?? 0n;
    // Taken from the other place what is not at this one.
    const part = quantity < 0n && here + quantity < 0n ? -here : quantity;
    for (const [at, amount] of [
      [place, part],
      [4 - place, quantity - part]
    ] as const) {
      if (amount === 0n) continue;
      this.rows.movements.push({ event, mark, place: at, quantity: amount });
      const key = `${mark} ${at}`;
      this.atPlace.set(key, (this.atPlace.get(key) ?? 0n) + amount);
    }
  }
  /** Uses and makes, by one transformation. */
  protected tie(
    event: number,
    inputs: { mark: number; quantity: bigint }[],
    outputs: { mark: number; quantity: bigint }[],
    shared = false
  ): void {
    for (const { mark, quantity } of outputs) this.move(event, mark, quantity);
    this.rows.transformations.push({
      id: this.rows.transformations.length + 1,
      event,
      shared: false,
      inputs,
      outputs: outputs.map((row, n) => ({
        ...row,
        share: shared ? 1_000_000_000_000n / BigInt(outputs.length + n) : null
      }))
    });
  }
  protected mark(event: number, kind: 'lot' | 'serial', lot = 0): number {
    const id = this.rows.marks.length + 1;
    const product = kind === 'serial' ? 1 : 2 + (id % 2);
    this.rows.marks.push({ id, product, kind: kind === 'serial' ? 2 : 1, lot, birth: event });
    return id;
  }
  protected isUnit(mark: number): boolean {
    return this.rows.marks[mark - 1]!.kind === 2;
  }
  protected onHand(test: (mark: number) => boolean = () => true): number[] {
    return [...this.stock].filter(([mark, q]) => q > 0n && test(mark)).map(([mark]) => mark);
  }
  protected some(list: readonly number[], n: number): number | null {
    return list.length === 0 ? null : list[this.act.picks[n]! % list.length]!;
  }
  protected lots = (): number[] => this.rows.marks.filter((m) => m.kind === 1).map((m) => m.id);

  /** A share of what is there of a mark; all of a unit. */
  protected share(mark: number, n: number): bigint {
    const there = this.stock.get(mark)!;
    if (this.isUnit(mark)) return there;
    const part = (there * BigInt(this.act.parts[n]!)) / 100n;
    return part > 0n ? part : there;
  }

  protected isTorn(mark: number): boolean {
    return this.rows.transformations.some(
      (tie) =>
        this.rows.events[tie.event - 1]!.kind === eventKindCode('teardown') &&
        tie.inputs.some((row) => row.mark === mark)
    );
  }
}

import { contentOfMicro } from './amounts.ts';
import { noAmounts } from './held.ts';

/** What marks hold, by place: how much there is of each, and how much of the root is in it. */
export interface HeldByPlace {
  quantity: bigint[];
  content: bigint[];
}

/**
 * What marks give to the event at hand: each by what it held when the event began, whatever is taken
 * from it first.
 */
export class Giving {
  /** What the event used of each mark, and what of the root that was, by place. */
  readonly used: bigint[];
  readonly taken: bigint[];
  private readonly started: Uint8Array;
  private readonly startQuantity: bigint[];
  private readonly startContent: bigint[];
  /** The quantity that was asked of a mark last, and what it gave for it. */
  private readonly lastCode: Int32Array;
  private readonly last: bigint[];
  /** What is taken of one mark over and over, one after the other; not yet taken off. */
  private run = { place: 0, code: 0, amount: 0n, part: 0n, times: 0 };

  constructor(
    private readonly held: HeldByPlace,
    private readonly isOwn: (place: number) => boolean
  ) {
    const count = held.quantity.length;
    this.used = noAmounts(count);
    this.taken = noAmounts(count);
    this.startQuantity = noAmounts(count);
    this.startContent = noAmounts(count);
    this.last = noAmounts(count);
    this.lastCode = new Int32Array(count).fill(-1);
    this.started = new Uint8Array(count);
  }

  /**
   * What a mark gives for a quantity.
   * @param code of the quantity, the same for equal ones; −1 where it has none
   */
  share(place: number, amount: bigint, code: number): bigint {
    if (this.isOwn(place)) return contentOfMicro(amount);
    if (this.started[place] === 0) this.start(place);
    // A thousand units each take the same of the same lot: divide once.
    if (code >= 0 && this.lastCode[place] === code) return this.last[place]!;
    const whole = this.startQuantity[place]!,
      content = this.startContent[place]!;
    const part = amount >= whole ? content : (content * amount) / whole;
    this.last[place] = part;
    this.lastCode[place] = code;
    return part;
  }

  private start(place: number): void {
    this.started[place] = 1;
    this.startQuantity[place] = this.held.quantity[place]!;
    this.startContent[place] = this.held.content[place]!;
  }

  /**
   * Takes from a mark. What is taken of it time and again in the same quantity is taken off together,
   * at the latest when `settle` is called.
   */
  take(place: number, code: number, amount: bigint, part: bigint): void {
    const { run } = this;
    if (run.times > 0 && run.place === place && run.code === code) {
      run.times++;
      return;
    }
    this.settle();
    this.run = { place, code, amount, part, times: 1 };
  }

  /** Takes off what is not taken off yet. */
  settle(): void {
    const { place, amount, part, times } = this.run;
    if (times === 0) return;
    const quantity = amount * BigInt(times),
      content = part * BigInt(times);
    this.used[place]! += quantity;
    this.taken[place]! += content;
    this.held.quantity[place]! -= quantity;
    this.held.content[place]! -= content;
    this.run.times = 0;
  }

  /** Makes a mark ready for the next event. */
  forget(place: number): void {
    this.used[place] = this.taken[place] = 0n;
    this.started[place] = 0;
    this.lastCode[place] = -1;
  }
}

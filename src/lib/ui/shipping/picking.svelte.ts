import { inTurn } from '../../core/in-turn.ts';
import { quantity } from '../../core/quantity/quantity.ts';
import type { PickRecord } from '../../core/shipping/pick-record.ts';
import type { Fault } from '../bench/booking-sheet.svelte.ts';
import { GoingOn } from '../bench/going-on.svelte.ts';
import type { Told } from '../bench/in-hand.ts';
import { sound } from '../bench/sound.ts';
import type { DockActs } from '../dock/acts.svelte.ts';
import { waiting } from '../dock/waiting.svelte.ts';
import { messagesOf, send, type Refusal } from '../frame/api.ts';
import { newKey } from '../frame/new-key.ts';
import { withLeftPicks, type LeftPick } from './left-picks.ts';

interface Of {
  /** The order's number. */
  order: string;
  picks: readonly PickRecord[];
  maySwap: boolean;
  today: () => string;
  /** What waits on this device; none where nothing may be picked. */
  acts: DockActs<LeftPick> | undefined;
}

interface PickBody {
  scan: string;
  quantity?: string;
}

interface PickedThere {
  said: string;
  moved: boolean;
  already: boolean;
}

/** A serial on the list that another may stand in for. */
interface Swap {
  to: string;
  from: string[];
}

/** Picking by scan: the list as it stands, with or without a line, and what became of each scan. */
export class Picking {
  said = $state.raw<Told | null>(null);
  swap = $state.raw<Swap | null>(null);
  busy = $state(false);
  /** What the last scan was refused for and may go on in spite of. */
  waits = $state.raw<readonly Fault[]>([]);
  readonly going = new GoingOn();
  /** The list as the server has it. */
  #served = $state.raw<readonly PickRecord[]>([]);
  /** What was picked here and is not on the server yet. */
  readonly #left = $derived.by(() => this.#of.acts?.effects ?? []);
  /** The list with that. */
  readonly picks = $derived.by(() => withLeftPicks(this.#served, this.#left));
  /** What was held, has expired or left meanwhile is no stop any more; it is said apart. */
  readonly stops = $derived.by(() => this.picks.filter((pick) => pick.fell === null));
  readonly open = $derived.by(() => this.stops.filter((pick) => pick.picked !== pick.quantity));
  /** Stops of which something waits on this device. */
  readonly left: ReadonlySet<number> = $derived.by(
    () => new Set(this.#left.map(({ pick }) => pick))
  );
  #waitingScan = '';
  readonly #of: Of;
  readonly #turn = inTurn();

  constructor(of: Of) {
    this.#of = of;
    this.#served = of.picks;
  }

  /** The list as the server has it now; one's own pick that is on its way brings it along. */
  serve(picks: readonly PickRecord[]): void {
    if (!this.busy) this.#served = picks;
  }

  /**
   * However fast one scans: each finds what the one before put on the list.
   * @returns whether the scan was answered, with or without a line
   */
  take(scan: string, amount: string): Promise<boolean> {
    return this.#turn(() => this.#take(scan.trim(), amount.trim()));
  }

  /** Sends the last scan once more, with the reasons that were given. */
  takeAgain(amount: string): Promise<boolean> {
    return this.take(this.#waitingScan, amount);
  }

  async swapFor(from: string): Promise<void> {
    const { to } = this.swap!;
    const reply = await send('PUT', `${this.#address}/swaps`, { from, to });
    if (!reply.ok) {
      this.#refuse(reply.refusal);
      return;
    }
    this.swap = null;
    await this.take(to, '');
  }

  async putBack(pick: number): Promise<void> {
    const here = this.#of.acts?.waits.filter((one) => (one.body as LeftPick).pick === pick) ?? [];
    for (const { key } of here) await waiting.takeBack(key);
    const isServed = this.#served.some((stop) => stop.id === pick && stop.picked !== '0');
    if (isServed && !(await this.#putBackThere(pick))) return;
    this.said = { tone: 'warned', text: 'Put back on the list.' };
  }

  get #address(): string {
    return `/api/v1/orders/sales/${encodeURIComponent(this.#of.order)}`;
  }

  async #putBackThere(pick: number): Promise<boolean> {
    const path = `${this.#address}/picks`;
    const reply = await send<{ picks: PickRecord[] }>('DELETE', path, { pick });
    if (reply.ok) this.#served = reply.body.picks;
    else this.#refuse(reply.refusal);
    return reply.ok;
  }

  async #take(scan: string, amount: string): Promise<boolean> {
    if (scan === '') return true;
    this.busy = true;
    this.swap = null;
    if (scan !== this.#waitingScan) this.#dropReasons();
    const body = { scan, ...(amount ? { quantity: amount } : {}), ...this.going.given };
    const isAnswered = await this.#ask(body, newKey());
    this.busy = false;
    return isAnswered;
  }

  async #ask(body: PickBody, key: string): Promise<boolean> {
    const { acts } = this.#of;
    const path = `${this.#address}/picks`;
    const reply = await acts!.ask<PickedThere>(path, body, key);
    if (reply.ok) {
      const { said: text, moved, already } = reply.body;
      this.said = { tone: moved || already ? 'warned' : 'taken', text };
      await this.#reload();
      this.#tookIt();
    } else if (reply.refusal.status === 0) return this.#takeHere(path, body, key, reply.refusal);
    else this.#refuseScan(reply.refusal, body.scan);
    return true;
  }

  /** Without a line: by what is known here. @returns whether anything is */
  async #takeHere(path: string, body: PickBody, key: string, refusal: Refusal): Promise<boolean> {
    const known = await this.#of.acts!.known();
    const decides = await import('./pick-here.ts').catch(() => null);
    if (!known || !decides) {
      this.#refuse(refusal);
      return false;
    }
    const { pickHere } = decides;
    const here = pickHere(known, this.picks, body, this.#of.order, this.#of.today());
    if (here.is === 'refused') {
      this.said = { tone: 'refused', text: here.said };
      sound('refused');
      return true;
    }
    if (here.is === 'picked') await this.#of.acts!.leave(path, body, key, here.effect);
    const isNoted = here.is !== 'picked' || here.moved;
    this.said = { tone: isNoted ? 'warned' : 'taken', text: here.said };
    this.#tookIt();
    return true;
  }

  #tookIt(): void {
    this.#dropReasons();
    sound(this.open.length === 0 ? 'done' : 'taken');
  }

  #refuse(refusal: Refusal): void {
    this.said = { tone: 'refused', text: messagesOf(refusal).join(' ') };
    sound('refused');
  }

  #refuseScan(refusal: Refusal, scan: string): void {
    this.#refuse(refusal);
    const faults = refusal.errors as Fault[];
    if (faults.some((fault) => fault.answer)) {
      this.waits = faults;
      this.#waitingScan = scan;
    }
    const wrong = faults.find(
      (one) => one.code === 'mark.wrong-product' && /swap it/.test(one.message)
    );
    if (!wrong?.number || !this.#of.maySwap) return;
    const named = this.picks.filter(
      (pick) => pick.picked === '0' && pick.number !== null && wrong.message.includes(pick.number)
    );
    this.swap = { to: wrong.number, from: named.map((pick) => pick.number!) };
  }

  #dropReasons(): void {
    this.waits = [];
    this.#waitingScan = '';
    this.going.clear();
  }

  async #reload(): Promise<void> {
    const reply = await send<{ picks: PickRecord[] }>('GET', `${this.#address}/pick-list`);
    if (reply.ok) this.#served = reply.body.picks;
  }
}

/** What is still to be fetched of a stop. */
export const openOf = (pick: PickRecord): string =>
  quantity(pick.quantity).minus(pick.picked).toFixed();

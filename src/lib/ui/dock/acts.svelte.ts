import type { Snapshot } from '../../core/ledger/snapshot.ts';
import { send, unreachable, type Reply } from '../frame/api.ts';
import type { WaitingBooking } from './store.ts';
import { waiting } from './waiting.svelte.ts';

interface Of {
  login: string;
  /** Name its acts wait under: `pick SO-1`. */
  sheet: string;
  document: string;
  /** Its screen's path. */
  href: string;
  /** Screens that are gone on to from there, kept with it. */
  next?: readonly string[];
  /** Where what the server knows is asked: `/ship/SO-1/known`. */
  known: string;
}

/**
 * What is booked act by act, scan by scan, and goes on without a line: each act waits on the device
 * under its own key, in the order it was done.
 * `Effect` is what an act does to what its screen shows.
 */
export class DockActs<Effect extends object> {
  /** All that the screen needs is on this device. */
  isReady = $state(false);
  readonly #of: Of;

  constructor(of: Of) {
    this.#of = of;
  }

  /** What waits for the line, the first first. */
  get waits(): readonly WaitingBooking[] {
    return this.#mine.filter((one) => !one.refused);
  }

  /** What did not hold when the line was back. */
  get refused(): readonly WaitingBooking[] {
    return this.#mine.filter((one) => one.refused);
  }

  /** What the acts that wait do, in their order. */
  get effects(): readonly Effect[] {
    return this.waits.map((one) => one.body as Effect);
  }

  get #mine(): readonly WaitingBooking[] {
    return waiting.apartOf(this.#of.sheet);
  }

  /** Keeps the screen for when the line is lost. */
  async open(): Promise<void> {
    const { href, known, next = [] } = this.#of;
    await waiting.sendAll();
    const { keepForDock } = await import('./known.ts');
    this.isReady = await keepForDock([href, ...next], known);
  }

  /** Asks Earmark, after all that waits: nothing overtakes what was done before it. */
  async ask<T>(path: string, request: object, key: string): Promise<Reply<T>> {
    // Where nobody answers, a scan does not wait to hear it again.
    if (waiting.isLost) return unreachable;
    if (this.waits.length > 0) await waiting.sendAll();
    if (this.waits.length > 0) return unreachable;
    return send<T>('POST', path, request, { 'idempotency-key': key });
  }

  /** Leaves an act here, under the key it was asked with: booked once, whatever came of that. */
  async leave(path: string, request: object, key: string, effect: Effect): Promise<void> {
    const { login, sheet, document, href } = this.#of;
    const at = new Date().toISOString();
    await waiting.leave({
      ...{ login, sheet, document, href, path, request, key, at },
      ...{ body: effect, since: null, refused: null, isApart: true }
    });
  }

  /** What is known here; null where nothing is. */
  async known(): Promise<Snapshot | null> {
    const { readKnown } = await import('./known.ts');
    return readKnown(this.#of.known);
  }
}

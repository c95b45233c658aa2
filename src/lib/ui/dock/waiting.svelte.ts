import { inTurn } from '../../core/in-turn.ts';
import { send } from '../frame/api.ts';
import { refresh } from '../frame/refresh.ts';
import { sendWaiting, type Became } from './send-waiting.ts';
import { dockStore, type WaitingBooking } from './store.ts';

/** So often is tried again while there is something to send. */
const TRY_EVERY_MS = 4_000;

/** A thousandth of a second later. */
const justAfter = (instant: string): string => new Date(Date.parse(instant) + 1).toISOString();

/**
 * What waits on this device for the line, and sends it when that is back: one after the other, as
 * they were left. Of several tabs each may send; a booking's key has it booked once.
 */
export class Waiting {
  list = $state.raw<readonly WaitingBooking[]>([]);
  /** Nobody answers, as the last request showed. */
  isLost = $state(false);
  #login = '';
  readonly #told = new Map<string, (became: Became) => void>();
  readonly #next = inTurn();

  /** Of whoever is signed in here; what somebody else left waits for them. */
  get mine(): readonly WaitingBooking[] {
    return this.list.filter((one) => one.login === this.#login);
  }

  /** Reads what waits and begins to send it; returns what ends that. */
  begin(login: string): () => void {
    this.#login = login;
    void this.#read().then(() => this.sendAll());
    const again = (): void => void this.sendAll();
    const timer = setInterval(again, TRY_EVERY_MS);
    window.addEventListener('online', again);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', again);
    };
  }

  /** Leaves a booking here, behind all that wait already: also where the clock was put back. */
  async leave(booking: WaitingBooking): Promise<void> {
    await this.#read();
    const last = this.list.at(-1)?.at ?? '';
    const at = booking.at > last ? booking.at : justAfter(last);
    await dockStore.putWaiting({ ...booking, at });
    await this.#read();
  }

  /** What waits of a sheet of whoever is signed in. */
  async ofSheet(sheet: string): Promise<WaitingBooking | undefined> {
    await this.#read();
    return this.mine.find((one) => one.sheet === sheet && !one.isApart);
  }

  /** What was left of a sheet by itself, the first first: what waits, and what did not hold. */
  apartOf(sheet: string): readonly WaitingBooking[] {
    return this.mine.filter((one) => one.sheet === sheet && one.isApart);
  }

  /** It waits no longer: it is given up, or its sheet is worked on again. */
  async takeBack(key: string): Promise<void> {
    await dockStore.dropWaiting(key);
    await this.#read();
  }

  /** Calls back with what becomes of a booking, as long as its sheet is shown. */
  tell(key: string, to: (became: Became) => void): void {
    this.#told.set(key, to);
  }

  tellNoMore(key: string): void {
    this.#told.delete(key);
  }

  /** Sends what waits, until one is not answered. */
  sendAll(): Promise<void> {
    return this.#next(async () => {
      // What was taken back in another tab is not sent by this one.
      if (this.list.length > 0) await this.#read();
      for (const booking of this.mine) {
        if (booking.refused) continue;
        const became = await sendWaiting(booking, send);
        if (became.what === 'waits') return;
        await this.#settle(booking, became);
      }
    });
  }

  async #settle(booking: WaitingBooking, became: Became): Promise<void> {
    if (booking.isApart) await this.#settleApart(booking, became);
    else if (!(await this.#settleWithSheet(booking, became))) return;
    await this.#read();
    this.#told.get(booking.key)?.(became);
    await refresh();
  }

  async #settleApart(booking: WaitingBooking, became: Became): Promise<void> {
    if (became.what === 'booked') await dockStore.dropWaiting(booking.key);
    else if (became.what === 'refused')
      await dockStore.putWaiting({ ...booking, refused: became.messages });
  }

  /** @returns whether it is settled, and need not be asked again */
  async #settleWithSheet(booking: WaitingBooking, became: Became): Promise<boolean> {
    const draft = `/api/v1/drafts/${encodeURIComponent(booking.sheet)}`;
    if (became.what === 'booked') {
      await send('DELETE', draft);
      await dockStore.dropWaiting(booking.key);
    } else if (became.what === 'refused') {
      // The sheet opens with what was typed, wherever its person opens it.
      const kept = await send('PUT', draft, { body: { ...booking.body, key: booking.key } });
      if (!kept.ok && kept.refusal.status === 0) return false;
      await dockStore.putWaiting({ ...booking, refused: became.messages });
    }
    await dockStore.dropSheet(booking.login, booking.sheet);
    return true;
  }

  async #read(): Promise<void> {
    // A browser that keeps nothing has nothing waiting.
    this.list = await dockStore.waiting().catch(() => []);
  }
}

export const waiting = new Waiting();

import { keptJson } from './kept-json.ts';

/** How far somebody is on the tour. */
interface Progress {
  login: string;
  /** The lot it follows. */
  lot: number;
  at: number;
}

type Kept = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;
const KEY = 'earmark tour';

/** The tour of whoever is signed in, kept by this browser until it is left. */
export class Tour {
  progress = $state.raw<Progress | null>(null);

  /** Goes on where this person was; another's tour is none of theirs. */
  goOn(storage: Kept, login: string): void {
    const kept = keptJson<Progress>(storage, KEY);
    this.progress = kept?.login === login ? kept : null;
  }

  start(storage: Kept, login: string, lot: number): void {
    this.#keep(storage, { login, lot, at: 0 });
  }

  /** To the stop so many further on, or back. */
  move(storage: Kept, steps: number, last: number): void {
    if (this.progress === null) return;
    const at = Math.min(last, Math.max(0, this.progress.at + steps));
    this.#keep(storage, { ...this.progress, at });
  }

  leave(storage: Kept): void {
    this.progress = null;
    storage.removeItem(KEY);
  }

  #keep(storage: Kept, progress: Progress): void {
    this.progress = progress;
    storage.setItem(KEY, JSON.stringify(progress));
  }
}

export const tour = new Tour();

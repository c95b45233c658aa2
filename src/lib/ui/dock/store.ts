import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** A sheet as it stands on this device and not on the server yet. */
export interface KeptSheet {
  /** Whose it is. */
  login: string;
  /** Name its draft is kept under: `receive PO-2611`. */
  sheet: string;
  body: object;
  /** The key it will be booked under. */
  key: string;
  /** When the draft on the server was kept that it goes on from; null where there was none. */
  since: string | null;
}

/** A booking that waits on this device for the line. */
export interface WaitingBooking extends KeptSheet {
  /** Where it is sent: `/api/v1/receipts`. */
  path: string;
  document: string;
  /** The screen it was made on. */
  href: string;
  request: object;
  /** When it was left here. */
  at: string;
  /** What Earmark said against it; null where it was not asked yet. */
  refused: string[] | null;
  /** Its sheet went on without it: what becomes of it touches neither that nor its draft. */
  isApart?: boolean;
}

interface Dock extends DBSchema {
  sheet: { key: [string, string]; value: KeptSheet };
  waiting: { key: string; value: WaitingBooking };
  known: { key: string; value: { address: string; text: string } };
}

const NAME = 'earmark-dock';

/** What a device keeps while there is no line, until somebody signs out. */
export class DockStore {
  #open: Promise<IDBPDatabase<Dock>> | null = null;

  /** A sheet, instead of what was kept of it before. */
  async keep(sheet: KeptSheet): Promise<void> {
    await (await this.#db()).put('sheet', sheet);
  }

  async sheetOf(login: string, sheet: string): Promise<KeptSheet | undefined> {
    return (await this.#db()).get('sheet', [login, sheet]);
  }

  async dropSheet(login: string, sheet: string): Promise<void> {
    await (await this.#db()).delete('sheet', [login, sheet]);
  }

  /** A booking that waits, or what became of it. */
  async putWaiting(booking: WaitingBooking): Promise<void> {
    await (await this.#db()).put('waiting', booking);
  }

  /** What waits, the first first. */
  async waiting(): Promise<WaitingBooking[]> {
    const all = await (await this.#db()).getAll('waiting');
    return all.sort((a, b) => (a.at < b.at ? -1 : 1));
  }

  async dropWaiting(key: string): Promise<void> {
    await (await this.#db()).delete('waiting', key);
  }

  /** What the server knew when a sheet was last opened with a line, by where that is asked. */
  async keepKnown(address: string, text: string): Promise<void> {
    await (await this.#db()).put('known', { address, text });
  }

  async known(address: string): Promise<string | undefined> {
    return (await (await this.#db()).get('known', address))?.text;
  }

  /** Nothing stays. */
  async forget(): Promise<void> {
    const db = await this.#db();
    await Promise.all([db.clear('sheet'), db.clear('waiting'), db.clear('known')]);
  }

  #db(): Promise<IDBPDatabase<Dock>> {
    this.#open ??= openDB<Dock>(NAME, 2, {
      upgrade(db, before) {
        if (before === 0) {
          db.createObjectStore('sheet', { keyPath: ['login', 'sheet'] });
          db.createObjectStore('waiting', { keyPath: 'key' });
        } else db.deleteObjectStore('known'); // by document; it is read anew with the next sheet
        db.createObjectStore('known', { keyPath: 'address' });
      }
    });
    return this.#open;
  }
}

export const dockStore = new DockStore();

import { availableParallelism } from 'node:os';
import type { Worker } from 'node:worker_threads';
import type { BookedRows } from '../../../core/trace/packed/booked-rows.ts';
import { bytesOf, type PackedLedger } from '../../../core/trace/packed/packed-ledger.ts';
import type { Sql, Tx } from '../../kernel/db/client.ts';
import { inSnapshot } from '../../kernel/db/in-snapshot.ts';
import type { LoaderReply, LoaderTask } from './loader-thread.ts';
import type {
  FromReader,
  JsonParts,
  Question,
  SourcesQuestion,
  SourcesReply,
  ToReader,
  TraceQuestion,
  TraceReply
} from './messages.ts';
import {
  AnotherLedger,
  isBookedSince,
  readBooked,
  type Anchor,
  type Names
} from './read-booked.ts';
import { readSnapshotText, sees, type Snapshot } from './snapshot.ts';
import { startThread } from '../../kernel/start-thread.ts';

const LOADER = new URL('./loader-thread.ts', import.meta.url);
const READER = new URL('./reader-thread.ts', import.meta.url);

export interface EngineOptions {
  /** Where the ledger is read, under the application's role. */
  url: string;
  /** File the packed ledger is kept in, so that the next start is quick; null for none. */
  file: string | null;
  /** Reader threads. */
  threads?: number;
  /** Most bytes the packed ledger may take. */
  limit?: number;
  /** Rows added since packing beyond which it is packed anew. */
  most?: number;
}

export type EngineState = 'starting' | 'ready' | 'off';
/** How it stands; for operators. */
export interface EngineStatus {
  state: EngineState;
  /** Why it is off. */ reason: string | null;
  from: 'file' | 'ledger' | null;
  bytes: number;
  links: number;
  added: number;
  readers: number;
  packing: boolean;
}

/** No answer from the index: ask the database. */
export class NoIndex extends Error {}

interface Reader {
  worker: Worker;
  waiting: Map<
    number,
    {
      answer: (reply: TraceReply | SourcesReply) => void;
      json: ((parts: JsonParts) => void) | null;
      fail: (error: Error) => void;
    }
  >;
}
interface Since {
  rows: BookedRows;
  names: Names;
  xids: ReadonlyMap<number, bigint>;
}

/** What is answered now and, where it was asked for, what follows as JSON text. */
export interface Answered<Reply> {
  reply: Promise<Reply>;
  json: Promise<JsonParts> | null;
}

/**
 * The genealogy of the whole ledger in memory, shared by reader threads. At every question it is
 * brought up to date within the asker's own snapshot of the database, so an answer holds all that
 * was committed before it and nothing of what was not. While it is packed anew the old one goes on;
 * where there is none, a question is refused with NoIndex and the database answers it.
 */
export class TraceEngine {
  private state: EngineState = 'starting';
  private reason: string | null = null;
  private from: 'file' | 'ledger' | null = null;
  private ledger: PackedLedger | null = null;
  private names: Names = { units: [], places: [] };
  /** The snapshot the ledger was packed in, and the last one it was brought up to date with. */
  private packed: Snapshot | null = null;
  private upTo: Snapshot | null = null;
  private anchor: Anchor | null = null;
  private since: Since[] = [];
  private added = 0;
  private links = 0;
  private readonly placeCodes = new Map<number, string>();
  private readers: Reader[] = [];
  private loader: Worker | null = null;
  private turn: Promise<unknown> = Promise.resolve();
  private questions = 0;
  /** Rows added since packing beyond which it is packed anew the next time. */
  private packAt: number;
  /** Readers that ended one after the other, none of them having answered. */
  private deaths = 0;
  private readonly threads: number;
  private readonly limit: number;
  private readonly most: number;

  constructor(private readonly options: EngineOptions) {
    this.threads = options.threads ?? Math.max(1, Math.min(4, availableParallelism() - 1));
    this.limit = options.limit ?? 2048 * 1_048_576;
    this.most = options.most ?? 250_000;
    this.packAt = this.most;
  }

  status(): EngineStatus {
    return {
      state: this.state,
      reason: this.reason,
      from: this.from,
      bytes: this.ledger ? bytesOf(this.ledger) : 0,
      links: this.links,
      added: this.added,
      readers: this.readers.length,
      packing: this.loader !== null
    };
  }

  /**
   * Packs the ledger, or opens the one kept in the file.
   * @param sql where a kept one is compared with the ledger; null to read the ledger whatever is
   * kept
   * @returns when it answers, or is off
   */
  async start(sql: Sql | null): Promise<void> {
    try {
      await this.load(sql, sql !== null);
    } catch (error) {
      this.turnOff((error as Error).message);
    }
  }

  /**
   * Asks a question within a transaction of the asker's, whose first statement this must be: the
   * answer is as of its snapshot.
   * @throws NoIndex where the database must answer
   */
  ask(tx: Tx, question: TraceQuestion): Promise<Answered<TraceReply>>;
  ask(tx: Tx, question: SourcesQuestion): Promise<Answered<SourcesReply>>;
  async ask(tx: Tx, question: Question): Promise<Answered<TraceReply | SourcesReply>> {
    this.requireReady();
    return await this.inTurn(async () => {
      this.requireReady();
      await this.bringUpToDate(tx);
      // The answer is not waited for here: the next asker's turn comes while it is worked out.
      return this.post(question);
    });
  }

  /**
   * Asks a question whose asker reads nothing beside it that a booking changes: the answer holds all
   * that was committed before. Where nothing was booked since, no snapshot is held and nobody's turn
   * is waited for. Nobody who has a turn waits for a connection: those that are there may all be
   * held by askers who wait for theirs.
   * @throws NoIndex where the database must answer
   */
  async askNow(sql: Sql, question: TraceQuestion): Promise<Answered<TraceReply>> {
    this.requireReady();
    if (await this.known(isBookedSince(sql, this.upTo!, this.packed!, this.anchor)))
      return await inSnapshot(sql, (tx) => this.ask(tx, question));
    this.requireReady();
    return this.post(question);
  }

  /** The code of a place that an answer names. */
  placeCode(place: number): string {
    return this.placeCodes.get(place) ?? '';
  }

  private requireReady(): void {
    if (this.state !== 'ready') throw new NoIndex('The index is not there.');
  }

  private learn({ places }: Names): void {
    for (const [place, code] of places) this.placeCodes.set(place, code);
  }

  async stop(): Promise<void> {
    this.state = 'off';
    this.reason = 'stopped';
    await this.loader?.terminate();
    this.loader = null;
    await Promise.all(this.readers.splice(0).map((reader) => reader.worker.terminate()));
  }

  /**
   * One after the other: nobody is brought up to date, and no ledger exchanged, between another's
   * update and question.
   */
  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const done = this.turn.then(work, work);
    this.turn = done.catch(() => {});
    return done;
  }

  private async bringUpToDate(tx: Tx): Promise<void> {
    const { snapshot, rows, names, xids, anchor } = await this.known(
      readBooked(tx, this.upTo!, this.packed!, this.anchor)
    );
    this.upTo = snapshot;
    this.anchor = anchor;
    if (rows.events.length === 0) return;
    this.since.push({ rows, names, xids });
    this.added += countOf(rows);
    this.learn(names);
    this.tell({ do: 'add', rows, names });
    if (this.added > this.packAt && !this.loader) void this.packAnew();
  }

  /** What is read of the ledger the index knows; where it is another, that is read anew. */
  private async known<T>(reading: Promise<T>): Promise<T> {
    try {
      return await reading;
    } catch (error) {
      if (!(error instanceof AnotherLedger)) throw error;
      // Of several who find it at the same moment, one has it read anew.
      if (this.state === 'ready') {
        console.error('The ledger is another one than the index was made of; it is read anew.');
        this.state = 'starting';
        void this.start(null);
      }
      throw new NoIndex(error.message);
    }
  }

  private async packAnew(): Promise<void> {
    try {
      await this.load(null, false);
      this.packAt = this.most;
    } catch (error) {
      // The ledger that is open goes on, with more and more added to it; what failed now would fail
      // at the next trace too, so it is tried again only when there is twice as much.
      this.packAt = this.added * 2;
      console.error(`The index could not be packed anew: ${(error as Error).message}`);
    }
  }

  /**
   * @param sql where a kept index is compared with the ledger it should be of; null to read the
   * ledger itself
   */
  private async load(sql: Sql | null, keptWillDo: boolean): Promise<void> {
    const { url, file } = this.options;
    let reply = await this.runLoader({ url, file, keptWillDo, limit: this.limit });
    if ('loaded' in reply && reply.from === 'file' && sql && !(await this.fits(sql, reply.loaded)))
      reply = await this.runLoader({ url, file, keptWillDo: false, limit: this.limit });
    if ('failed' in reply) throw new Error(reply.failed);
    const { loaded, from } = reply;
    if (bytesOf(loaded.ledger) > this.limit)
      throw new Error(
        `The index takes ${Math.ceil(bytesOf(loaded.ledger) / 1_048_576)} MB; ${Math.floor(this.limit / 1_048_576)} MB are allowed.`
      );
    await this.inTurn(async () => {
      if (this.reason === 'stopped') return;
      const packed = readSnapshotText(loaded.snapshot);
      this.ledger = loaded.ledger;
      this.links = linksOf(loaded.ledger);
      this.names = loaded.names;
      this.learn(loaded.names);
      this.packed = packed;
      if (this.state === 'starting') {
        this.upTo = packed;
        this.anchor = loaded.anchor;
        this.since = [];
      }
      // What was added to the old one and is not in the new one yet.
      else
        this.since = this.since.filter((one) =>
          [...one.xids.values()].some((xid) => !sees(packed, xid))
        );
      this.added = this.since.reduce((sum, one) => sum + countOf(one.rows), 0);
      this.from = from;
      while (this.readers.length < this.threads) this.readers.push(this.startReader());
      this.tell(this.opening());
      this.state = 'ready';
    });
  }

  private opening(): ToReader {
    return {
      do: 'open',
      ledger: this.ledger!,
      names: this.names,
      since: this.since.map(({ rows, names }) => ({ rows, names }))
    };
  }

  /**
   * Whether a kept index is of this ledger as it once was, and not so old that reading all anew is
   * quicker.
   */
  private async fits(
    sql: Sql,
    { anchor, snapshot }: { anchor: Anchor | null; snapshot: string }
  ): Promise<boolean> {
    if (!anchor) return false;
    const kept = readSnapshotText(snapshot);
    const [row] = await sql<{ xmax: string; same: boolean; since: number }[]>`
      SELECT pg_snapshot_xmax(pg_current_snapshot())::text AS xmax,
        EXISTS (
          SELECT
          FROM event
          WHERE id = ${anchor.id}
            AND booked_at::text = ${anchor.bookedAt}
            AND booked_xid::text = ${anchor.xid}
        ) AS same,
        (
          SELECT count(*)::int
          FROM (
            SELECT
            FROM event
            WHERE booked_xid >= ${String(kept.xmin)}::xid8
            LIMIT ${MOST_SINCE_KEPT + 1}
          ) e
        ) AS since
    `;
    return BigInt(row!.xmax) >= kept.xmax && row!.same && row!.since <= MOST_SINCE_KEPT;
  }

  private runLoader(task: LoaderTask): Promise<LoaderReply> {
    return new Promise((done) => {
      const worker = (this.loader = startThread('loader', LOADER, task));
      let reply: LoaderReply = {
        failed: 'The thread that reads the ledger ended without a word.',
        tooLarge: false
      };
      worker.on('message', (message: LoaderReply) => {
        reply = message;
        done(reply);
      });
      worker.on('error', (error) => {
        reply = { failed: error.message, tooLarge: false };
      });
      worker.on('exit', () => {
        if (this.loader === worker) this.loader = null;
        done(reply);
      });
    });
  }

  private startReader(): Reader {
    const reader: Reader = { worker: startThread('reader', READER, null), waiting: new Map() };
    reader.worker.unref();
    reader.worker.on('message', (message: FromReader) => {
      this.deaths = 0;
      const asked = reader.waiting.get(message.id);
      if (!asked) return;
      if (message.part === 'failed') {
        asked.fail(new NoIndex(message.message));
        console.error(`The index could not answer: ${message.message}`);
      } else if (message.part === 'json') asked.json?.(message.reply);
      else asked.answer(message.reply);
      if (message.part !== 'trace' || !asked.json) reader.waiting.delete(message.id);
    });
    // A reader that dies takes its questions with it, to be asked of the database; another takes
    // its place.
    reader.worker.on('error', (error) => {
      console.error(`A reader of the index failed: ${error.message}`);
    });
    reader.worker.on('exit', () => {
      for (const asked of reader.waiting.values())
        asked.fail(new NoIndex('A reader of the index ended.'));
      const at = this.readers.indexOf(reader);
      if (at < 0) return;
      this.readers.splice(at, 1);
      if (this.state === 'ready') this.replaceReader();
    });
    return reader;
  }

  /**
   * Another reader for one that ended: at once, then after longer and longer pauses while none of
   * them answers. Where none can be kept alive, traces are read from the database.
   */
  private replaceReader(): void {
    this.deaths++;
    if (this.deaths > MOST_DEATHS) {
      if (this.readers.length === 0) this.turnOff('its reader threads do not stay alive');
      return;
    }
    const pause = this.deaths === 1 ? 0 : FIRST_PAUSE_MS * 2 ** this.deaths;
    setTimeout(() => {
      if (this.state !== 'ready' || this.readers.length >= this.threads) return;
      const reader = this.startReader();
      this.readers.push(reader);
      reader.worker.postMessage(this.opening());
    }, pause).unref();
  }

  private tell(message: ToReader): void {
    for (const reader of this.readers) reader.worker.postMessage(message);
  }

  private post(question: TraceQuestion): Answered<TraceReply>;
  private post(question: Question): Answered<TraceReply | SourcesReply>;
  private post(question: Question): Answered<TraceReply | SourcesReply> {
    if (this.readers.length === 0) throw new NoIndex('No reader of the index is alive.');
    const reader = this.readers.reduce((least, one) =>
      one.waiting.size < least.waiting.size ? one : least
    );
    const id = ++this.questions;
    const wantsJson = question.about === 'trace' && question.want === 'json';
    let json: Promise<JsonParts> | null = null;
    const reply = new Promise<TraceReply | SourcesReply>((answer, fail) => {
      let answerJson: ((parts: JsonParts) => void) | null = null,
        failJson: (error: Error) => void = () => {};
      if (wantsJson) {
        json = new Promise((done, failed) => {
          answerJson = done;
          failJson = failed;
        });
        json.catch(() => {});
      }
      reader.waiting.set(id, {
        answer,
        json: answerJson,
        fail: (error) => {
          fail(error);
          failJson(error);
        }
      });
    });
    reply.catch(() => {});
    reader.worker.postMessage({ do: 'answer', id, question } satisfies ToReader);
    return { reply, json };
  }

  private turnOff(reason: string): void {
    this.state = 'off';
    this.reason = reason;
    console.error(`Traces are read from the database: ${reason}`);
  }
}

/** Readers that may end one after the other without an answer, and the first pause between them. */
const MOST_DEATHS = 6;
const FIRST_PAUSE_MS = 50;

/** Events since a kept index was written beyond which the ledger is read anew. */
const MOST_SINCE_KEPT = 50_000;

const countOf = (rows: BookedRows): number =>
  rows.events.length +
  rows.marks.length +
  rows.movements.length +
  rows.transformations.reduce((sum, tie) => sum + tie.inputs.length + tie.outputs.length, 0);

/** Links of a packed ledger between marks and what they went into, one for each input. */
function linksOf(ledger: PackedLedger): number {
  let links = 0;
  for (let node = 0; node < ledger.shape.length; node++)
    if (ledger.shape[node]! > 0) links += ledger.shapes[ledger.shape[node]!]!;
  return links;
}

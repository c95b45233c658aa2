import { isTopic, TOPICS, type Topic } from '../../core/topics.ts';
import type { Sql } from '../kernel/db/client.ts';

const CHANNEL = 'earmark_news';
/** A pool that broke was replaced by another: so often is looked whether it is still the one. */
const LOOK_MS = 5_000;

type Tell = (topics: readonly Topic[]) => void;

/** Tells what was committed by any process to whoever follows, over one connection for all of them. */
export class News {
  readonly #pool: () => Sql;
  readonly #followers = new Set<Tell>();
  #heardOn: Sql | null = null;
  #looking: NodeJS.Timeout | null = null;

  /** @param pool the application's pool, as it is now */
  constructor(pool: () => Sql) {
    this.#pool = pool;
  }

  get followers(): number {
    return this.#followers.size;
  }

  /**
   * Follows from now on. After a lost connection all topics are told, as what was committed meanwhile
   * was not heard.
   * @returns settles once it is heard, with what ends it; where it cannot be heard, nobody follows
   */
  async follow(tell: Tell): Promise<() => void> {
    this.#followers.add(tell);
    this.#looking ??= setInterval(() => void this.#hear().catch(() => {}), LOOK_MS).unref();
    try {
      await this.#hear();
    } catch (error) {
      this.#leave(tell);
      throw error;
    }
    return () => this.#leave(tell);
  }

  #leave(tell: Tell): void {
    this.#followers.delete(tell);
    if (this.#followers.size > 0 || this.#looking === null) return;
    clearInterval(this.#looking);
    this.#looking = null;
  }

  async #hear(): Promise<void> {
    const pool = this.#pool();
    if (pool === this.#heardOn) return;
    this.#heardOn = pool;
    let isFirst = true;
    try {
      await pool.listen(
        CHANNEL,
        (topic) => this.#tell(isTopic(topic) ? [topic] : []),
        () => {
          if (!isFirst) this.#tell(TOPICS);
          isFirst = false;
        }
      );
    } catch (error) {
      if (this.#heardOn === pool) this.#heardOn = null;
      throw error;
    }
  }

  #tell(topics: readonly Topic[]): void {
    if (topics.length > 0) for (const tell of [...this.#followers]) tell(topics);
  }
}

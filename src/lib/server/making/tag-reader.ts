import type { Db } from '../kernel/db/client.ts';

/**
 * A stand-in for the tag reader of each station: tags lie on it, carry a code and a little memory,
 * and can be taken away, garbled or the reader unplugged, so that every fault of a real one can be
 * met without one. It is in the database, so that every process that serves sees the same. A real
 * reader takes the place of this file.
 */
export interface ReaderTag {
  epc: string;
  /** What stands in the tag's own memory: its unit's last station and state. */
  memory: string;
}
export interface TagReader {
  plugged: boolean;
  /** In the order they were placed. */
  tags: ReaderTag[];
}

/** Most tags that lie on one reader. */
const MOST_TAGS = 200;

const keyOf = (station: string): string => station.toUpperCase();

/** The reader of a station, with what lies on it. */
export async function readerAt(db: Db, station: string): Promise<TagReader> {
  const key = keyOf(station);
  const [row] = await db<[TagReader]>`
    SELECT coalesce((SELECT plugged FROM tag_reader WHERE station = ${key}), true) AS plugged,
      coalesce(
        (
          SELECT json_agg(json_build_object('epc', epc, 'memory', memory) ORDER BY placed)
          FROM reader_tag
          WHERE station = ${key}
        ),
          '[]'
      ) AS tags
  `;
  return row;
}

/** Plugs the reader of a station in, or out. */
export async function plugReader(db: Db, station: string, plugged: boolean): Promise<void> {
  await db`
    INSERT INTO tag_reader (station, plugged)
    VALUES (${keyOf(station)}, ${plugged})
    ON CONFLICT (station) DO UPDATE SET plugged = EXCLUDED.plugged
  `;
}

/**
 * Puts a tag on the reader; the same tag lies there once. One carried from another reader keeps its
 * memory, and one too many does not lie down.
 */
export async function placeTag(db: Db, station: string, epc: string): Promise<void> {
  const key = keyOf(station);
  await db`
    INSERT INTO reader_tag AS r (epc, station)
    SELECT ${epc}, ${key}
    WHERE (SELECT count(*) FROM reader_tag WHERE station = ${key}) < ${MOST_TAGS}
    ON CONFLICT (epc) DO UPDATE SET station = EXCLUDED.station, placed = DEFAULT
    WHERE r.station IS DISTINCT FROM EXCLUDED.station
  `;
}

/** Takes a tag away: it keeps its memory, wherever it is carried. */
export async function takeTag(db: Db, station: string, epc: string): Promise<void> {
  await db`
    UPDATE reader_tag SET station = NULL WHERE epc = ${epc} AND station = ${keyOf(station)}
  `;
}

/** Spoils the code of a tag, as a weak field does. */
export async function garbleTag(db: Db, station: string, epc: string): Promise<void> {
  const garbled = `${epc.slice(0, 11)}??${epc.slice(13)}`;
  await db`DELETE FROM reader_tag WHERE epc = ${garbled}`;
  await db`
    UPDATE reader_tag SET epc = ${garbled} WHERE epc = ${epc} AND station = ${keyOf(station)}
  `;
}

/**
 * Writes a tag's memory. Answers whether it was written: not where the reader is unplugged or the
 * tag is gone.
 */
export async function writeTag(
  db: Db,
  station: string,
  epc: string,
  memory: string
): Promise<boolean> {
  const { count } = await db`
    UPDATE reader_tag t
    SET memory = ${memory}
    WHERE t.epc = ${epc} AND t.station = ${keyOf(station)}
      AND NOT EXISTS (SELECT FROM tag_reader r WHERE r.station = t.station AND NOT r.plugged)
  `;
  return count > 0;
}

/**
 * Which tags are newly there: not seen for so many seconds by this reader in this mode. Seeing one
 * counts; of two processes that look at once, one is told.
 */
export async function newlySeen(
  db: Db,
  station: string,
  epcs: readonly string[],
  mode: string,
  now: Date,
  seconds: number
): Promise<Set<string>> {
  await db`DELETE FROM tag_seen WHERE at < ${now}::timestamptz - interval '1 hour'`;
  const rows = await db<{ epc: string; before: Date | null }[]>`
    INSERT INTO tag_seen AS s (station, epc, mode, at)
    SELECT ${keyOf(station)}, epc, ${mode}, ${now}
    FROM unnest(${[...new Set(epcs)].sort()}::text[]) AS t (epc)
    ON CONFLICT (station, epc, mode) DO UPDATE SET before = s.at, at = EXCLUDED.at
    RETURNING epc, before
  `;
  const isNew = (before: Date | null): boolean =>
    before === null || now.getTime() - before.getTime() >= seconds * 1000;
  return new Set(rows.filter(({ before }) => isNew(before)).map(({ epc }) => epc));
}

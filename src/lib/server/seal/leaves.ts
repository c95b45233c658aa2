import { createHash } from 'node:crypto';
import type { Db } from '../kernel/db/client.ts';
import { NOT_OF_ITS_BIRTH, SEALED_ROWS, type SealedRows } from './sealed-rows.ts';

/** An event with all its rows, in the one form that is sealed. */
export interface Leaf {
  event: number;
  /** JSON as PostgreSQL writes jsonb: keys in one order, numbers as they are kept. */
  text: string;
}

const rowsOf = ({ part, table, of, by }: SealedRows): string => `
  '${part}', (
    SELECT jsonb_agg(to_jsonb(x) - '${of}' ORDER BY x.${by})
    FROM ${table} x
    WHERE x.${of} = e.id
  )`;

/** What a mark was when it began: as it is, but for what was changed since, which was as it was before. */
const BORN = `
  'born', (
    SELECT jsonb_agg(
      (
        to_jsonb(m) - '{${NOT_OF_ITS_BIRTH.join(',')}}'::text[]
        || coalesce(
          (SELECT jsonb_object_agg('fact ' || f.key, f.value) FROM jsonb_each_text(m.facts) f), '{}'
        )
        || coalesce(
          (
            SELECT jsonb_object_agg(c.name, c.old_value)
            FROM (
              SELECT DISTINCT ON (name) CASE WHEN x.field = 'fact' THEN 'fact ' || x.fact ELSE x.field END AS name,
                x.old_value
              FROM mark_change x
              WHERE x.mark_id = m.id
              ORDER BY name, x.id
            ) c
          ), '{}'
        )
      ) ORDER BY m.id
    )
    FROM mark m
    WHERE m.birth_event = e.id
  )`;

const MADE = `
  'made', (
    SELECT jsonb_agg(
      jsonb_build_object(
        'id', t.id, 'shared', t.shared,
        'from', (
          SELECT jsonb_agg(to_jsonb(i) - 'transformation_id' ORDER BY i.mark_id)
          FROM transformation_input i
          WHERE i.transformation_id = t.id
        ),
        'into', (
          SELECT jsonb_agg(to_jsonb(o) - 'transformation_id' ORDER BY o.mark_id)
          FROM transformation_output o
          WHERE o.transformation_id = t.id
        )
      ) ORDER BY t.id
    )
    FROM transformation t
    WHERE t.event_id = e.id
  )`;

const LEAF = `
  jsonb_strip_nulls(
    (to_jsonb(e) - 'booked_xid')
    || jsonb_build_object(${[BORN, MADE, ...SEALED_ROWS.map(rowsOf)].join(',')})
  )::text`;

/** The leaves of these events, in the order they are named. */
export async function leavesOf(db: Db, events: readonly number[]): Promise<Leaf[]> {
  return db.unsafe<Leaf[]>(
    `SELECT e.id AS event, ${LEAF} AS text
    FROM unnest($1::bigint[]) WITH ORDINALITY w (id, n)
      JOIN event e ON e.id = w.id
    ORDER BY w.n`,
    [events as number[]]
  );
}

/** Bytes kept of each part's hash: enough to tell a part that was altered from one that was not. */
const PART_BYTES = 6;

/** The parts of a leaf by name, each with the first bytes of its own hash. */
export function partsOf(text: string): Map<string, string> {
  const leaf = JSON.parse(text) as Record<string, unknown>;
  return new Map(
    Object.keys(leaf)
      .sort()
      .map((name) => [
        name,
        createHash('sha256')
          .update(JSON.stringify(leaf[name]))
          .digest('hex')
          .slice(0, 2 * PART_BYTES)
      ])
  );
}

/** The parts as they are kept: names and first bytes, one after the other. */
export const packParts = (parts: ReadonlyMap<string, string>): Buffer =>
  Buffer.from([...parts].map(([name, hash]) => `${name} ${hash}`).join('\n'));

export const unpackParts = (packed: Uint8Array): Map<string, string> =>
  new Map(
    Buffer.from(packed)
      .toString()
      .split('\n')
      .map((line) => line.split(' ') as [string, string])
  );

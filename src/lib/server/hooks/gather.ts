import { hookTypeOf } from '../../core/hooks/hook-types.ts';
import type { Sql } from '../kernel/db/client.ts';

/** Events that are read at once. */
const MOST = 1_000;

/**
 * Reads on in the sealed ledger and puts down who is to be told of what. By one process at a time;
 * what it put down is sent by any.
 * @returns how many events were read
 */
export async function gatherMessages(sql: Sql): Promise<number> {
  return (await sql.begin(async (tx) => {
    const [cursor] = await tx<{ position: number }[]>`
      SELECT position FROM hook_cursor FOR UPDATE SKIP LOCKED
    `;
    if (!cursor) return 0;
    const events = await tx<{ id: number; kind: string; position: number }[]>`
      SELECT e.id, e.kind, l.position
      FROM seal_leaf l
        JOIN event e ON e.id = l.event_id
      WHERE l.position >= ${cursor.position}
      ORDER BY l.position
      LIMIT ${MOST}
    `;
    if (events.length === 0) return 0;
    const told = events.flatMap(({ id, kind }) => {
      const type = hookTypeOf(kind);
      return type === null ? [] : [{ id, type }];
    });
    await tx`
      WITH told AS (
        SELECT *
        FROM unnest(${told.map(({ id }) => id)}::bigint[], ${told.map(({ type }) => type)}::text[])
          AS t (event_id, type)
      ),
        wanted AS (
          SELECT h.id AS hook_id, t.event_id, t.type
          FROM told t
            JOIN hook h ON h.ended_at IS NULL AND t.type = ANY(h.types)
            JOIN event e ON e.id = t.event_id AND e.booked_at >= h.made_at
        ),
        written AS (
          INSERT INTO hook_message (type, event_id)
          SELECT DISTINCT type, event_id FROM wanted
          RETURNING id, event_id
        )
      INSERT INTO hook_delivery (hook_id, message_id)
      SELECT w.hook_id, m.id
      FROM wanted w
        JOIN written m ON m.event_id = w.event_id
      ORDER BY m.id, w.hook_id
    `;
    await tx`UPDATE hook_cursor SET position = ${events.at(-1)!.position + 1}`;
    return events.length;
  })) as number;
}

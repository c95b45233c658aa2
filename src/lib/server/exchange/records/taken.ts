import type { Db } from '../../kernel/db/client.ts';
import { withinDays } from '../../kernel/db/days.ts';
import { holding } from '../../kernel/db/like.ts';
import type { RecordsAsked, RecordsRead } from './asked.ts';
import { counted, type CountedRow } from './counted.ts';

/** What was taken away as a file, the latest first. */
export async function readTaken(db: Db, asked: RecordsAsked, most: number): Promise<RecordsRead> {
  const q = asked.q === undefined ? null : holding(asked.q);
  const rows = await db<CountedRow[]>`
    SELECT to_json(l.at) #>> '{}' AS at, coalesce(p.name, l.login) AS who,
      coalesce(t.name, '') AS token, l.address, l.about, count(*) OVER ()::int AS total
    FROM security_log l
      LEFT JOIN person p ON p.id = l.person_id
      LEFT JOIN api_token t ON t.id = l.token_id
    WHERE l.kind = 'file taken'
      AND ${withinDays(db, db`l.at`, asked)}
      AND (${q}::text IS NULL OR p.name ILIKE ${q} OR p.login ILIKE ${q} OR l.about ILIKE ${q})
    ORDER BY l.id DESC
    LIMIT ${most}
  `;
  return counted(rows);
}

import type { PendingQuery, Row } from 'postgres';
import type { Db } from '../../kernel/db/client.ts';

/** What a list is narrowed by besides: whether its rows hold a text, where one is asked for. */
export const narrowed = (
  db: Db,
  text: string | undefined,
  holds: (db: Db, text: string) => PendingQuery<Row[]>
) => (text === undefined ? db`` : db`AND ${holds(db, text)}`);

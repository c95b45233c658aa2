import type { Actor } from '../kernel/actor.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { lockCase } from './case-row.ts';
import { post, readGoods, stillOpenOnly } from './notices.ts';
import { openWith, type StillOpen } from './still-open.ts';

const DAY = 86_400_000;

interface Due {
  number: string;
  days: number;
  decided: Actor;
}

/**
 * Reminds who has not answered within the days their case gives them, again and again until they
 * have. A letter goes out in the name of who decided the scope. Two that run at once send one: the
 * case is locked, and its last letters are read behind the lock.
 * @param now what counts as now
 * @param failed is told of a case whose reminders could not be sent; the others are sent all the same
 * @returns how many letters went into the outbox
 */
export async function sendDueReminders(
  sql: Sql,
  now: Date,
  failed: (number: string, error: unknown) => void
): Promise<number> {
  const cases = await sql<Due[]>`
    SELECT c.number, c.remind_days AS days,
      json_build_object(
        'personId', p.id, 'login', p.login, 'name', p.name, 'roles', p.roles, 'via', 'session'
      ) AS decided
    FROM recall_case c
      JOIN person p ON p.id = c.decided_by
    WHERE c.closed_at IS NULL AND c.remind_days IS NOT NULL
    ORDER BY c.id
  `;
  let sent = 0;
  for (const one of cases)
    sent += await remindOf(sql, one, now).catch((error: unknown) => {
      failed(one.number, error);
      return 0;
    });
  return sent;
}

const remindOf = async (sql: Sql, { number, days, decided }: Due, now: Date): Promise<number> =>
  (await sql.begin(async (tx) => {
    const row = await lockCase(tx, number);
    if (row.closed) return 0;
    const open = await openWith(tx, row);
    const late = [...open]
      .filter(([, one]) => now.getTime() - Date.parse(one.lastLetter) >= days * DAY)
      .map(([partner]) => partner);
    return late.length === 0 ? 0 : remind(tx, row, decided, open, late);
  })) as number;

async function remind(
  tx: Tx,
  row: Awaited<ReturnType<typeof lockCase>>,
  decided: Actor,
  open: StillOpen,
  late: readonly string[]
): Promise<number> {
  const goods = stillOpenOnly(await readGoods(tx, row.id, late), open);
  const letter = { kind: 'reminder', byItself: true, key: null } as const;
  return (await post(tx, row, decided, goods, letter, open)).sent;
}

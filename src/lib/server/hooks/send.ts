import { Webhook } from 'standardwebhooks';
import { pauseAfter } from '../../core/hooks/pauses.ts';
import type { Sql } from '../kernel/db/client.ts';
import { readFed } from '../seal/feed.ts';
import { secretOf } from './hooks.ts';

/** Sent at once; who does not answer in this time is asked again later. */
const AT_ONCE = 20;
const PATIENCE_MS = 10_000;
/** A sender that died in the middle leaves it to the others after so long. */
const CLAIMED_FOR = '1 minute';
const MOST_ANSWER = 300;

interface Due {
  id: number;
  tries: number;
  url: string;
  secret: Uint8Array;
  made_by: number;
  message_id: number;
  type: string;
  at: Date;
  event_id: number | null;
  recall: { number: string; title: string; mock: boolean } | null;
}

/**
 * Sends what is due, together and in no order: the id of an event says which came first.
 * @returns how many were tried
 */
export async function sendDue(sql: Sql): Promise<number> {
  const due = await claimDue(sql);
  await Promise.all(due.map((one) => sendOne(sql, one)));
  return due.length;
}

const claimDue = (sql: Sql): Promise<Due[]> => sql<Due[]>`
  WITH mine AS (
    UPDATE hook_delivery
    SET tries = tries + 1, last_at = clock_timestamp(),
      next_at = clock_timestamp() + ${CLAIMED_FOR}::interval
    WHERE id IN (
      SELECT id
      FROM hook_delivery
      WHERE next_at <= clock_timestamp()
      ORDER BY next_at, id
      LIMIT ${AT_ONCE}
      FOR UPDATE SKIP LOCKED
    )
    RETURNING *
  )
  SELECT d.id, d.tries, h.url, h.secret, h.made_by, m.id AS message_id, m.type, m.at, m.event_id,
    CASE WHEN c.id IS NOT NULL THEN
      json_build_object('number', c.number, 'title', c.title, 'mock', c.mock) END AS recall
  FROM mine d
    JOIN hook h ON h.id = d.hook_id
    JOIN hook_message m ON m.id = d.message_id
    LEFT JOIN recall_case c ON c.id = m.case_id
  ORDER BY d.id
`;

async function sendOne(sql: Sql, due: Due): Promise<void> {
  const answer = await tell(sql, due);
  if (answer === null)
    await sql`
      UPDATE hook_delivery
      SET done_at = clock_timestamp(), next_at = NULL, last_answer = NULL
      WHERE id = ${due.id}
    `;
  else
    await sql`
      UPDATE hook_delivery
      SET last_answer = ${answer.slice(0, MOST_ANSWER)},
        next_at = clock_timestamp() + make_interval(secs => ${secondsAfter(due.tries)})
      WHERE id = ${due.id} AND next_at IS NOT NULL
    `;
}

/** Null is an instant that never comes: it is given up. */
function secondsAfter(tries: number): number | null {
  const pause = pauseAfter(tries);
  return pause === null ? null : pause / 1000;
}

/** @returns what was wrong; null where it was taken */
async function tell(sql: Sql, due: Due): Promise<string | null> {
  try {
    const id = `msg_${due.message_id}`;
    const body = JSON.stringify(await messageOf(sql, due));
    const now = new Date();
    const signature = new Webhook(secretOf(due.secret, due.made_by)).sign(id, now, body);
    const reply = await fetch(due.url, {
      method: 'POST',
      // To go where an answer points would be to tell somebody nobody named.
      redirect: 'manual',
      signal: AbortSignal.timeout(PATIENCE_MS),
      headers: {
        'content-type': 'application/json',
        'webhook-id': id,
        'webhook-timestamp': String(Math.floor(now.getTime() / 1000)),
        'webhook-signature': signature
      },
      body
    });
    await reply.body?.cancel();
    return reply.ok ? null : `answered ${reply.status}`;
  } catch (error) {
    return whyNot(error as Error);
  }
}

function whyNot(error: Error): string {
  if (error.name === 'TimeoutError') return `no answer within ${PATIENCE_MS / 1000} seconds`;
  const { code, message } = (error.cause ?? {}) as { code?: string; message?: string };
  return `not reached (${code ?? message ?? error.message})`;
}

/** A message as Standard Webhooks has it: what, when, and what it is about as it stands now. */
async function messageOf(sql: Sql, { type, at, event_id, recall }: Due): Promise<object> {
  const timestamp = at.toISOString();
  if (event_id === null) return { type, timestamp, data: recall };
  const [event] = await readFed(sql, [event_id]);
  return { type, timestamp, data: event };
}

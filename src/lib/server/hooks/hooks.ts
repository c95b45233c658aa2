import { randomBytes } from 'node:crypto';
import type { z } from 'zod';
import type { Actor } from '../kernel/actor.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { notFound } from '../kernel/problem.ts';
import { boxed, unboxed } from '../people/account/boxed.ts';
import type { HookDeliveries, Hooks, NewHook } from './schemas.ts';

/** What a secret begins with, by Standard Webhooks. */
const PREFIX = 'whsec_';
const SECRET_BYTES = 32;
/** Most messages of one hook that are listed. */
const MOST = 100;

type Hook = z.infer<typeof Hooks>['hooks'][number];
type Delivery = z.infer<typeof HookDeliveries>['deliveries'][number];

/** Hooks, those that are told first. */
export const readHooks = (db: Db): Promise<Hook[]> => db<Hook[]>`
  SELECT h.id, h.name, h.url, h.types, to_json(h.made_at) #>> '{}' AS made, w.name AS "madeBy",
    to_json(h.ended_at) #>> '{}' AS ended,
    (
      SELECT count(*)::int FROM hook_delivery d WHERE d.hook_id = h.id AND d.next_at IS NOT NULL
    ) AS waiting,
    (
      SELECT count(*)::int
      FROM hook_delivery d
      WHERE d.hook_id = h.id AND d.next_at IS NULL AND d.done_at IS NULL
    ) AS "givenUp"
  FROM hook h
    JOIN person w ON w.id = h.made_by
  ORDER BY h.ended_at IS NOT NULL, h.id
`;

/**
 * Makes a hook: what is booked from now on is told to it. Its secret is told once, here.
 * @returns the secret as whoever checks signatures wants it
 */
export async function makeHook(
  sql: Sql,
  actor: Actor,
  { name, url, types }: z.infer<typeof NewHook>
): Promise<{ id: number; secret: string }> {
  const secret = randomBytes(SECRET_BYTES);
  return sql.begin(async (tx) => {
    const [hook] = await tx<[{ id: number }]>`
      INSERT INTO hook (name, url, secret, types, made_by)
      VALUES (${name}, ${url}, ${boxed(secret, actor.personId)}, ${types as string[]}, ${actor.personId})
      RETURNING id
    `;
    return { id: hook.id, secret: PREFIX + secret.toString('base64') };
  }) as Promise<{ id: number; secret: string }>;
}

/** The secret of a hook, as the one who made it was told it. */
export const secretOf = (box: Uint8Array, madeBy: number): string =>
  PREFIX + unboxed(box, madeBy).toString('base64');

/** Ends a hook: it is told nothing more, also of what waits. @throws Problem 404 */
export async function endHook(sql: Sql, id: number): Promise<void> {
  await sql.begin(async (tx) => {
    const ended = await tx`
      UPDATE hook SET ended_at = coalesce(ended_at, clock_timestamp()) WHERE id = ${id} RETURNING id
    `;
    if (ended.length === 0) notFound('hook', String(id));
    await tx`UPDATE hook_delivery SET next_at = NULL WHERE hook_id = ${id} AND next_at IS NOT NULL`;
  });
}

/** The latest messages of a hook and what became of them, and how many there are. @throws Problem 404 */
export async function readDeliveries(
  db: Db,
  hook: number
): Promise<{ deliveries: Delivery[]; total: number }> {
  const [known] = await db<{ total: number }[]>`
    SELECT (SELECT count(*)::int FROM hook_delivery d WHERE d.hook_id = h.id) AS total
    FROM hook h
    WHERE h.id = ${hook}
  `;
  if (!known) return notFound('hook', String(hook));
  const deliveries = await db<Delivery[]>`
    SELECT d.id, m.type, coalesce(e.document, c.number) AS about, m.event_id AS event,
      c.number AS recall, to_json(m.at) #>> '{}' AS at, d.tries, to_json(d.last_at) #>> '{}' AS last,
      d.last_answer AS answer,
      CASE WHEN d.done_at IS NOT NULL THEN 'taken' WHEN d.next_at IS NOT NULL THEN 'waiting'
        ELSE 'given up' END AS state,
      to_json(d.next_at) #>> '{}' AS next
    FROM hook_delivery d
      JOIN hook_message m ON m.id = d.message_id
      LEFT JOIN event e ON e.id = m.event_id
      LEFT JOIN recall_case c ON c.id = m.case_id
    WHERE d.hook_id = ${hook}
    ORDER BY d.id DESC
    LIMIT ${MOST}
  `;
  return { deliveries, total: known.total };
}

/** Sends a message again, whatever became of it. @throws Problem 404, also of a hook that has ended */
export async function sendAgain(db: Db, hook: number, delivery: number): Promise<void> {
  const again = await db`
    UPDATE hook_delivery d
    SET next_at = clock_timestamp(), done_at = NULL, tries = 0
    FROM hook h
    WHERE h.id = d.hook_id AND h.ended_at IS NULL AND d.hook_id = ${hook} AND d.id = ${delivery}
    RETURNING d.id
  `;
  if (again.length === 0) notFound('message', String(delivery));
}

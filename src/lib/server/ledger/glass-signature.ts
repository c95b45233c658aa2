import { readPictureFile } from '../catalogue/picture-file.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import { requireOneRight } from '../kernel/rights.ts';

/** Kinds of event by which goods change hands. */
export const HANDED_OVER: ReadonlySet<string> = new Set([
  'ship',
  'return',
  'intake',
  'receive',
  'transfer'
]);

/** Who holds the phone that somebody signs on: one of these rights. */
export const MAY_SIGN = [
  'book.ship',
  'book.return',
  'book.receive',
  'book.move',
  'service'
] as const;

/** Largest drawing that is kept: a signature, not a picture. */
const MOST_BYTES = 300_000;

export interface GlassSignature {
  name: string;
  at: string;
  takenBy: string;
}

/** Who signed for an event; null where nobody did. */
export async function readGlassSignature(db: Db, event: number): Promise<GlassSignature | null> {
  const [row] = await db<GlassSignature[]>`
    SELECT g.name, to_json(g.signed_at) #>> '{}' AS at, p.name AS "takenBy"
    FROM glass_signature g
      JOIN person p ON p.id = g.taken_by
    WHERE g.event_id = ${event}
  `;
  return row ?? null;
}

/** The drawing itself. @throws Problem 404 */
export async function readDrawing(db: Db, event: number): Promise<Uint8Array> {
  const [row] = await db<{ png: Uint8Array }[]>`
    SELECT png FROM glass_signature WHERE event_id = ${event}
  `;
  return row?.png ?? notFound('signature', String(event));
}

/**
 * Keeps who signed for goods that changed hands by an event, once and for ever.
 * @throws Problem 403, 404, 409 where somebody signed already, 422 where nothing changed hands, or
 * it is no drawing
 */
export async function keepGlassSignature(
  sql: Sql,
  actor: Actor,
  event: number,
  { name, png }: { name: string; png: string }
): Promise<GlassSignature> {
  requireOneRight(actor, MAY_SIGN);
  const [found] = await sql<{ kind: string }[]>`SELECT kind FROM event WHERE id = ${event}`;
  if (!found) notFound('event', String(event));
  if (!HANDED_OVER.has(found.kind))
    throw refused(422, 'event', `By an event of kind ${found.kind} nothing changes hands.`);
  const bytes = Buffer.from(png, 'base64');
  const file = readPictureFile(bytes);
  if (!file.ok || file.type !== 'image/png' || bytes.length > MOST_BYTES)
    throw refused(422, 'png', 'The signature cannot be read. Clear it and sign again.');
  const [kept] = await sql`
    INSERT INTO glass_signature (event_id, name, png, taken_by)
    VALUES (${event}, ${name}, ${bytes}, ${actor.personId})
    ON CONFLICT DO NOTHING
    RETURNING event_id
  `;
  const signed = (await readGlassSignature(sql, event))!;
  if (kept) return signed;
  throw refused(409, 'event', `${signed.name} signed for this already.`);
}

const refused = (status: number, path: string, message: string): Problem =>
  new Problem(status, 'The signature cannot be kept', [
    { code: 'request.malformed', path, message }
  ]);

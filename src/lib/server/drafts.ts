import type { Db, Json } from './db/client.ts';

export interface KeptDraft { body: Json | null; keptAt: string | null; /** Names of others with a draft on the same sheet. */ others: string[] }

/** A person's draft of a sheet, and who else has one open. */
export async function readDraft(db: Db, personId: number, sheet: string): Promise<KeptDraft> {
  const rows = await db<{ person_id: number; name: string; body: Json; kept_at: Date }[]>`
    SELECT d.person_id, p.name, CASE WHEN d.person_id = ${personId} THEN d.body END AS body, d.kept_at FROM draft d JOIN person p ON p.id = d.person_id WHERE d.sheet = ${sheet}`;
  const own = rows.find((row) => row.person_id === personId);
  return { body: own?.body ?? null, keptAt: own?.kept_at.toISOString() ?? null, others: rows.filter((row) => row.person_id !== personId).map((row) => row.name) };
}

export async function keepDraft(db: Db, personId: number, sheet: string, body: Json): Promise<{ keptAt: string }> {
  const [row] = await db<{ kept_at: Date }[]>`
    INSERT INTO draft (person_id, sheet, body) VALUES (${personId}, ${sheet.slice(0, 120)}, ${db.json(body as never)})
    ON CONFLICT (person_id, sheet) DO UPDATE SET body = excluded.body, kept_at = now() RETURNING kept_at`;
  return { keptAt: row!.kept_at.toISOString() };
}

export async function dropDraft(db: Db, personId: number, sheet: string): Promise<void> {
  await db`DELETE FROM draft WHERE person_id = ${personId} AND sheet = ${sheet}`;
}

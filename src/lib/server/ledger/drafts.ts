import type { Db, Json } from '../kernel/db/client.ts';

export interface KeptDraft {
  body: Json | null;
  keptAt: string | null;
  /** Names of others with a draft on the same sheet. */ others: string[];
}

/** A person's draft of a sheet, and who else has one open. */
export async function readDraft(db: Db, personId: number, sheet: string): Promise<KeptDraft> {
  const rows = await db<{ person_id: number; name: string; body: Json; kept_at: Date }[]>`
    SELECT d.person_id, p.name, CASE WHEN d.person_id = ${personId} THEN d.body END AS body,
      d.kept_at
    FROM draft d
      JOIN person p ON p.id = d.person_id
    WHERE d.sheet = ${sheet}
  `;
  const own = rows.find((row) => row.person_id === personId);
  return {
    body: own?.body ?? null,
    keptAt: own?.kept_at.toISOString() ?? null,
    others: rows.filter((row) => row.person_id !== personId).map((row) => row.name)
  };
}

/**
 * @param numbers what stands on the sheet, as `PRODUCT kind NUMBER` in capitals, so that others are
 * told of the same number
 */
export async function keepDraft(
  db: Db,
  personId: number,
  sheet: string,
  body: Json,
  numbers: readonly string[] = []
): Promise<{ keptAt: string }> {
  const [row] = await db<{ kept_at: Date }[]>`
    INSERT INTO draft (person_id, sheet, body, numbers)
    VALUES (${personId}, ${sheet.slice(0, 120)}, ${db.json(body as never)}, ${numbers as string[]})
    ON CONFLICT (person_id, sheet) DO UPDATE SET body = excluded.body, numbers = excluded.numbers,
      kept_at = now()
    RETURNING kept_at
  `;
  return { keptAt: row!.kept_at.toISOString() };
}

export async function dropDraft(db: Db, personId: number, sheet: string): Promise<void> {
  await db`DELETE FROM draft WHERE person_id = ${personId} AND sheet = ${sheet}`;
}

/**
 * Which of these numbers stand on an open draft of somebody else, and whose.
 * @param numbers asked for only where somebody else has a draft with numbers at all, so that
 * working alone costs next to nothing
 */
export async function onOtherDrafts(
  db: Db,
  personId: number,
  numbers: () => readonly string[]
): Promise<{ number: string; who: string }[]> {
  const [other] = await db`
    SELECT
    FROM draft
    WHERE person_id <> ${personId} AND numbers <> '{}' AND kept_at > now() - interval '3 days'
    LIMIT 1
  `;
  if (!other) return [];
  return db`
    SELECT DISTINCT n.number, p.name AS who
    FROM draft d
      JOIN person p ON p.id = d.person_id
      CROSS JOIN LATERAL unnest(d.numbers) AS n (number)
    WHERE d.person_id <> ${personId}
      AND d.kept_at > now() - interval '3 days'
      AND n.number = ANY(${numbers() as string[]})
    LIMIT 200
  `;
}

import { LANGUAGE_NAMES, type OtherLanguage } from '../../core/papers/language.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { requireRight } from '../kernel/rights.ts';
import { lockCase, log, stillOpen } from './case-row.ts';

/** What letters say of a case, as customers of one language read it. */
export interface CaseWords {
  language: OtherLanguage;
  title: string;
  hazard: string;
  request: string;
}

/**
 * Says a case in another language. Letters sent from now on say it so; those sent before stay as they
 * were. @throws Problem 403, 404, 409 where the case is closed
 */
export async function putWords(
  sql: Sql,
  actor: Actor,
  number: string,
  { language, title, hazard, request }: CaseWords
): Promise<void> {
  requireRight(actor, 'recall');
  await sql.begin(async (tx) => {
    const row = await lockCase(tx, number);
    stillOpen(row);
    const kept = await tx`
      INSERT INTO recall_words AS w (case_id, language, title, hazard, request)
      VALUES (${row.id}, ${language}, ${title}, ${hazard}, ${request})
      ON CONFLICT (case_id, language) DO UPDATE
        SET title = excluded.title, hazard = excluded.hazard, request = excluded.request
        WHERE (w.title, w.hazard, w.request)
          IS DISTINCT FROM (excluded.title, excluded.hazard, excluded.request)
      RETURNING 1
    `;
    // Sent twice it is said once.
    if (kept.length > 0)
      await log(tx, row.id, actor, `What letters say in ${LANGUAGE_NAMES[language]}: “${hazard}”`);
  });
}

/** A case in the languages it was said in besides English. */
export const readWords = (db: Db, caseId: number): Promise<CaseWords[]> => db<CaseWords[]>`
  SELECT language, title, hazard, request
  FROM recall_words
  WHERE case_id = ${caseId}
  ORDER BY language
`;

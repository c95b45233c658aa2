import { numberKey } from '../../core/numbers/number.ts';
import type { ClaimPart, ClaimRecord } from '../../core/service/claim.ts';
import { groupBy } from '../../core/group-by.ts';
import type { Db } from '../kernel/db/client.ts';
import { holding } from '../kernel/db/like.ts';

const MOST = 200;

/**
 * Claims, those that wait first, the oldest of them first.
 * @param q our number, theirs, the serial of a part or the supplier; all where it is empty
 */
export async function readClaims(db: Db, q = ''): Promise<ClaimRecord[]> {
  const found: ReturnType<Db> =
    q === ''
      ? db`true`
      : db`
        (
          c.number ILIKE ${holding(q)}
            OR c.reference ILIKE ${holding(q)}
            OR t.name ILIKE ${holding(q)}
            OR EXISTS (
              SELECT
              FROM claim_part y
                JOIN mark m ON m.id = y.mark_id
              WHERE y.claim_id = c.id AND m.number ILIKE ${holding(q)}
            )
        )
      `;
  return read(db, found);
}

/** One claim by our number; undefined where there is none. */
export const readClaim = async (db: Db, number: string): Promise<ClaimRecord | undefined> =>
  (await read(db, db`upper(c.number) = ${numberKey(number)}`))[0];

async function read(db: Db, which: ReturnType<Db>): Promise<ClaimRecord[]> {
  const claims = await db<(Omit<ClaimRecord, 'parts'> & { id: number })[]>`
    SELECT c.id, c.number, t.code AS supplier, t.name, t.address, c.reference,
      CASE
        WHEN c.sent_at IS NULL THEN 'collected'
        WHEN EXISTS (SELECT FROM claim_part x WHERE x.claim_id = c.id AND x.outcome IS NULL)
          THEN 'sent'
        ELSE 'answered'
      END AS state,
      to_json(c.opened_at) #>> '{}' AS "openedAt", to_json(c.sent_at) #>> '{}' AS "sentAt"
    FROM claim c
      JOIN partner t ON t.id = c.supplier_id
    WHERE ${which}
    ORDER BY c.sent_at NULLS FIRST, c.id
    LIMIT ${MOST}
  `;
  const parts = await db<(ClaimPart & { claim: number })[]>`
    SELECT x.claim_id AS claim, m.id AS mark, p.code AS product, p.name, m.number AS serial,
      j.number AS job, x.receipt_id AS receipt, e.document, e.happened_at::date AS received,
      x.warranty_until AS "warrantyUntil", x.goodwill, x.reason, x.outcome,
      x.outcome_note AS note, x.replaced_by AS "replacedBy"
    FROM claim_part x
      JOIN mark m ON m.id = x.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN service_job j ON j.id = x.job_id
      LEFT JOIN event e ON e.id = x.receipt_id
    WHERE x.claim_id = ANY(${claims.map((claim) => claim.id)})
    ORDER BY x.id
  `;
  const partsOf = groupBy(parts, (part) => part.claim);
  const inOrder = { collected: 0, sent: 1, answered: 2 };
  return claims
    .map(({ id, ...claim }) => ({
      ...claim,
      parts: (partsOf.get(id) ?? []).map(({ claim: _, ...part }) => part)
    }))
    .sort((a, b) => inOrder[a.state] - inOrder[b.state]);
}

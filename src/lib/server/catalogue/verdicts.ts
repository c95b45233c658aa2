import { groupBy } from '../../core/group-by.ts';
import { verdictOf, type Judged, type Result, type Spec } from '../../core/quality/spec.ts';
import type { Verdict } from '../../core/quality/spec.ts';
import type { TestRecord } from '../../core/quality/mark-quality.ts';
import type { Db } from '../kernel/db/client.ts';

/**
 * Tests of these marks, of the lots they are within, and of the serials within them where asked,
 * oldest first.
 * @param asker whoever asks
 */
export async function readTests(
  db: Db,
  marks: readonly number[],
  asker: number | null = null
): Promise<TestRecord[]> {
  const rows = await db<
    (Omit<TestRecord, 'takenAt' | 'signedAt'> & { takenAt: Date; signedAt: Date | null })[]
  >`
    SELECT t.id, w.mark, t.taken_at AS "takenAt", t.instrument, t.sample, t.note, t.results,
      p.name AS who, q.name AS "signedBy", g.signed_at AS "signedAt", s.version AS "specVersion",
      t.tested_by IS NOT DISTINCT FROM ${asker} AS own
    FROM (
      SELECT m.id AS mark, m.id AS of
      FROM mark m
      WHERE m.id = ANY(${marks as number[]})
      UNION ALL
      SELECT m.id, m.lot_id
      FROM mark m
      WHERE m.id = ANY(${marks as number[]}) AND m.lot_id IS NOT NULL
    ) w
      JOIN quality_test t ON t.mark_id = w.of
      JOIN person p ON p.id = t.tested_by
      LEFT JOIN test_signature g ON g.test_id = t.id
      LEFT JOIN person q ON q.id = g.signed_by
      LEFT JOIN spec s ON s.id = t.spec_id
    ORDER BY t.taken_at, t.id
  `;
  return rows.map((row) => ({
    ...row,
    takenAt: row.takenAt.toISOString(),
    signedAt: row.signedAt?.toISOString() ?? null
  }));
}

/**
 * What counts of a mark's tests: a failing one at once, a good one when a second person signed it.
 */
export const countingResults = (tests: readonly TestRecord[], spec: Spec | null): Result[] =>
  tests.flatMap((test) =>
    test.signedBy !== null
      ? test.results
      : test.results.filter((result) =>
          verdictOf(spec, [result]).judged.some((one) => one.verdict === 'does not conform')
        )
  );

/** The verdict on each of these marks by the limits of their product; null where it has none. */
export async function readVerdicts(
  db: Db,
  marks: readonly { id: number; spec: Spec | null }[]
): Promise<Map<number, { verdict: Verdict | null; judged: Judged[] }>> {
  const judged = marks.filter((mark) => mark.spec !== null);
  if (judged.length === 0) return new Map();
  const tests = groupBy(
    await readTests(
      db,
      judged.map((mark) => mark.id)
    ),
    (test) => test.mark
  );
  return new Map(
    judged.map((mark) => [
      mark.id,
      verdictOf(mark.spec, countingResults(tests.get(mark.id) ?? [], mark.spec))
    ])
  );
}

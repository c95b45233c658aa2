import type { Sql } from '../kernel/db/client.ts';

export interface Break {
  law: string;
  what: string;
  expected: string;
  found: string;
}

/**
 * Compares stock with the sum of movements for every mark and place, and what each build's
 * transformations say with what its movements moved, in one snapshot. Returns at most the first
 * thousand breaks of each kind.
 */
export async function reconcile(
  sql: Sql
): Promise<{ marks: number; places: number; breaks: Break[] }> {
  return (await sql.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', async (tx) => {
    const stock = await tx<Break[]>`
      SELECT 'law 3' AS law,
        coalesce(
          m.kind || ' ' || m.number, 'unmarked'
        ) || ' of ' || p.code || ' at ' || c.code AS what,
        coalesce(v.sum, 0)::text AS expected, coalesce(s.quantity, 0)::text AS found
      FROM (
        SELECT mark_id, place_id, sum(quantity) AS sum FROM movement GROUP BY mark_id, place_id
      ) v
        FULL JOIN stock s ON s.mark_id = v.mark_id AND s.place_id = v.place_id
        JOIN mark m ON m.id = coalesce(v.mark_id, s.mark_id)
        JOIN product p ON p.id = m.product_id
        JOIN place c ON c.id = coalesce(v.place_id, s.place_id)
      WHERE coalesce(v.sum, 0) <> coalesce(s.quantity, 0)
      LIMIT 1000
    `;
    const builds = await tx<Break[]>`
      WITH live AS (SELECT t.id, coalesce(e.reverses_id, e.id) AS event_id, t.shared FROM transformation t JOIN event e ON e.id = t.event_id WHERE NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id))
      SELECT 'law 3 (genealogy)' AS law, e.kind || ' ' || e.document || ', mark ' || x.mark_id AS what, x.moved::text AS expected, x.said::text AS found FROM (
        -- A build and what took it back are one: together they moved what its transformations that still hold say. What units share makes none of them.
        SELECT event_id, mark_id, sum(moved) AS moved, sum(said) AS said FROM (
          SELECT coalesce(e.reverses_id, e.id) AS event_id, v.mark_id, v.quantity AS moved, 0 AS said FROM movement v JOIN event e ON e.id = v.event_id WHERE e.kind IN ('build', 'repack', 'teardown', 'identify', 'reversal')
          UNION ALL SELECT l.event_id, i.mark_id, 0, -i.quantity FROM live l JOIN transformation_input i ON i.transformation_id = l.id
          UNION ALL SELECT l.event_id, o.mark_id, 0, o.quantity FROM live l JOIN transformation_output o ON o.transformation_id = l.id WHERE NOT l.shared
        ) both_sides GROUP BY event_id, mark_id HAVING sum(moved) <> sum(said)
      ) x JOIN event e ON e.id = x.event_id LIMIT 1000`;
    const [counts] = await tx<
      { marks: number; places: number }[]
    >`SELECT (SELECT count(*) FROM mark) AS marks, (SELECT count(*) FROM stock) AS places`;
    return { marks: counts!.marks, places: counts!.places, breaks: [...stock, ...builds] };
  })) as { marks: number; places: number; breaks: Break[] };
}

import { MOST_BREAKS, type Break, type Proof } from './proof.ts';

/**
 * Law 10: of no part comes more out of a host than went in, over all that was built, fitted,
 * removed and taken apart. A share without a finite decimal may differ by what the ledger keeps.
 */
export const hostsGiveBackWhatWentIn: Proof = (tx) => tx<Break[]>`
  WITH parted AS (
    SELECT host_id AS host FROM removal
    UNION
    SELECT i.mark_id
    FROM event e
      JOIN transformation t ON t.event_id = e.id
      JOIN transformation_input i ON i.transformation_id = t.id
    WHERE e.kind = 'teardown'
  ),
    went_in AS (
      SELECT o.mark_id AS host, i.mark_id AS part, sum(i.quantity * o.quantity / w.whole) AS quantity
      FROM parted h
        JOIN transformation_output o ON o.mark_id = h.host
        JOIN transformation t ON t.id = o.transformation_id
        JOIN event e ON e.id = t.event_id AND e.kind NOT IN ('identify', 'teardown')
        JOIN transformation_input i ON i.transformation_id = t.id AND i.mark_id <> h.host
        CROSS JOIN LATERAL (
          SELECT sum(x.quantity) AS whole FROM transformation_output x WHERE x.transformation_id = t.id
        ) w
      WHERE NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id)
      GROUP BY 1, 2
      UNION ALL
      SELECT f.host_id, f.component_id, sum(f.quantity)
      FROM fitting f
      GROUP BY 1, 2
    ),
    came_out AS (
      SELECT r.host_id AS host, r.component_id AS part, sum(r.quantity) AS quantity, true AS known
      FROM removal r
      GROUP BY 1, 2
      UNION ALL
      SELECT i.mark_id, o.mark_id, sum(o.quantity), false
      FROM event e
        JOIN transformation t ON t.event_id = e.id
        JOIN transformation_input i ON i.transformation_id = t.id
        JOIN transformation_output o ON o.transformation_id = t.id
      WHERE e.kind = 'teardown'
        AND NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id)
      GROUP BY 1, 2
    ),
    sums AS (
      SELECT o.host, o.part, o.quantity AS out, o.known, i.quantity AS "in"
      FROM (
        SELECT host, part, sum(quantity) AS quantity, bool_or(known) AS known
        FROM came_out
        GROUP BY 1, 2
      ) o
        LEFT JOIN (
          SELECT host, part, sum(quantity) AS quantity FROM went_in GROUP BY 1, 2
        ) i USING (host, part)
    )
  -- What nobody recorded may come out of a teardown as something that never went in.
  SELECT 'law 10: no host gives back more than went in' AS law,
    'mark ' || s.part || ' out of mark ' || s.host AS what,
    'at most ' || coalesce(s.in, 0) AS expected, s.out::text AS found
  FROM sums s
  WHERE (s.in IS NOT NULL OR s.known) AND s.out > coalesce(s.in, 0) + 0.00001
  LIMIT ${MOST_BREAKS}
`;

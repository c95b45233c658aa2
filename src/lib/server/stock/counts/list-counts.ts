import type { Db } from '../../kernel/db/client.ts';
import { listed, type Listed } from '../../kernel/db/listed.ts';
import { stateOf, type CountState } from './count-head.ts';

/** A count in a list: how far it is, and what it found. */
export interface CountRow {
  document: string;
  state: CountState;
  blind: boolean;
  openedAt: string;
  openedBy: string;
  places: number;
  placesDone: number;
  /** The first of its places. */
  placesNamed: string[];
  entries: number;
  off: number;
}

const LISTED = 100;

/** Counts, the open ones first, then the latest: the first hundred. */
export async function listCounts(db: Db): Promise<Listed<CountRow>> {
  const rows = await db<(CountRow & { total: number })[]>`
    SELECT k.document, ${stateOf(db)} AS state, k.blind, to_json(k.opened_at) #>> '{}' AS "openedAt", o.name AS "openedBy",
      p.places, p.done AS "placesDone", p.named AS "placesNamed",
      coalesce(e.entries, 0) AS entries, coalesce(e.off, 0) AS off,
      k.total
    FROM (
      SELECT *, count(*) OVER ()::int AS total
      FROM stock_count
      ORDER BY (approved_at IS NULL AND cancelled_at IS NULL) DESC, id DESC
      LIMIT ${LISTED}
    ) k
      JOIN person o ON o.id = k.opened_by
      CROSS JOIN LATERAL (
        SELECT count(*)::int AS places, count(w.done_at)::int AS done,
          (array_agg(c.code::text ORDER BY c.code))[1:3] AS named
        FROM count_place w
          JOIN place c ON c.id = w.place_id
        WHERE w.count_id = k.id
      ) p
      LEFT JOIN LATERAL (
        SELECT count(*)::int AS entries, (count(*) FILTER (WHERE s.counted <> s.seen))::int AS off
        FROM count_standing s
        WHERE s.count_id = k.id AND s.counted IS NOT NULL
      ) e ON true
    ORDER BY (k.approved_at IS NULL AND k.cancelled_at IS NULL) DESC, k.id DESC
  `;
  return listed(rows);
}

/** How exact a place was, count by count. */
export interface PlaceExactness {
  code: string;
  name: string;
  siteName: string;
  /** Lots and serials that lie there now. */
  marks: number;
  /** When it was last counted; null where it never was. */
  countedOn: string | null;
  /** Of its last counts, the latest first: the day, lines counted, and how many were right. */
  counts: { day: string; document: string; lines: number; right: number }[];
  /** The open count it is in. */
  openIn: string | null;
}

/** Places by how long ago they were counted, those that never were first; or the one of a code. */
export async function readExactness(
  db: Db,
  place: string | null = null
): Promise<Listed<PlaceExactness>> {
  const rows = await db<(PlaceExactness & { total: number })[]>`
    WITH ended AS (
      SELECT s.place_id, k.document, k.approved_at, count(*)::int AS lines,
        (count(*) FILTER (WHERE s.counted = s.seen))::int AS right
      FROM stock_count k
        JOIN count_standing s ON s.count_id = k.id AND s.counted IS NOT NULL
      WHERE k.approved_at IS NOT NULL
      GROUP BY s.place_id, k.document, k.approved_at
    ), ranked AS (
      SELECT *, row_number() OVER (PARTITION BY place_id ORDER BY approved_at DESC) AS nth
      FROM ended
    )
    SELECT c.code, c.name, t.name AS "siteName",
      (SELECT count(*)::int FROM stock s WHERE s.place_id = c.id AND s.quantity > 0) AS marks,
      max(r.approved_at)::date AS "countedOn",
      coalesce(
        json_agg(
          json_build_object(
            'day', r.approved_at::date, 'document', r.document, 'lines', r.lines,
            'right', r.right
          ) ORDER BY r.nth
        ) FILTER (WHERE r.nth IS NOT NULL),
          '[]'
      ) AS counts,
      (
        SELECT k.document
        FROM count_place w
          JOIN stock_count k ON k.id = w.count_id
        WHERE w.place_id = c.id AND w.open
      ) AS "openIn",
      count(*) OVER ()::int AS total
    FROM place c
      JOIN site t ON t.id = c.site_id
      LEFT JOIN ranked r ON r.place_id = c.id AND r.nth <= 6
    WHERE c.kind <> 'transit' AND (${place}::text IS NULL OR upper(c.code) = upper(${place}))
    GROUP BY c.id, t.name
    ORDER BY max(r.approved_at) NULLS FIRST, c.code
    LIMIT 500
  `;
  return listed(rows);
}

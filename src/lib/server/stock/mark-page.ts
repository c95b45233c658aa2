import type { ListedMark } from '../../core/catalogue/listed-mark.ts';
import { expiryOf, stands, isOnHand } from '../kernel/db/what-counts.ts';
import type { FactValues } from '../../core/catalogue/facts.ts';
import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import { presentPlan } from '../catalogue/present-plan.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { ownAndMembers, readTimeline, type TimelineRow } from './timeline.ts';

export interface MarkRef extends ListedMark {
  id: number;
  quantity: string;
}
export interface MarkPage {
  mark: {
    id: number;
    kind: MarkKind;
    number: string | null;
    product: string;
    name: string;
    unit: string;
    state: MarkState;
    lot: { id: number; number: string; state: MarkState } | null;
    supplierNumber: string | null;
    madeOn: string | null;
    expires: string | null;
    ownExpires: string | null;
    retest: string | null;
    facts: FactValues;
    printed: number;
    /** What its plan asks to be kept beside the number, by name. */
    factNames: string[];
    /** What it was called before amendments. */ before: string[];
    warrantyMonths: number | null;
    onHand: string;
  };
  places: {
    code: string;
    name: string;
    site: string;
    quantity: string;
    quarantine: boolean;
    /** It is on a transfer, and on hand nowhere. */
    underWay: boolean;
  }[];
  /**
   * Serials within this lot; at most two hundred are listed, `memberCount` says how many there are.
   */
  members: MarkRef[];
  memberCount: number;
  /** Of a unit what is in it now; of a lot all that went in. */
  madeFrom: MarkRef[];
  /** Whether it was made here. */
  made: boolean;
  wentInto: (MarkRef & { document: string; event: number })[];
  wentIntoCount: number;
  /** From whom and on which document it came in; null for what was made here. */
  cameFrom: { kind: string; partner: string | null; document: string; event: number } | null;
  timeline: TimelineRow[];
}

const LISTED = 200;

/** All that the page of one mark shows; null where there is no such mark. */
export async function readMarkPage(db: Db, id: number): Promise<MarkPage | null> {
  const [row] = await db<
    (Omit<MarkPage['mark'], 'lot'> & {
      lot_id: number | null;
      lot: string | null;
      lot_state: MarkState | null;
    })[]
  >`
    SELECT m.id, m.kind, m.number, p.code AS product, p.name, p.unit, m.state, m.lot_id,
      l.number AS lot, l.state AS lot_state, m.supplier_number AS "supplierNumber",
      m.made_on AS "madeOn", ${expiryOf(db)} AS expires,
      m.expires_on AS "ownExpires", m.retest_on AS retest, m.facts,
      m.warranty_months AS "warrantyMonths",
      (SELECT count(*)::int FROM label_print x WHERE x.mark_id = m.id) AS printed,
      ARRAY(
        SELECT f ->> 'name' FROM jsonb_array_elements(${presentPlan(db)} -> 'facts') f
      ) AS "factNames",
      ARRAY(
        SELECT c.old_value
        FROM mark_change c
        WHERE c.mark_id = m.id AND c.field = 'number'
        ORDER BY c.id
      ) AS before,
      coalesce(
        (
          SELECT sum(s.quantity)
          FROM stock s
          WHERE s.quantity > 0
            AND ${isOnHand(db, db`s.place_id`)}
            AND s.mark_id = ANY(
              ARRAY(
                SELECT x.id
                FROM mark x
                WHERE x.id = m.id
                UNION ALL
                SELECT x.id
                FROM mark x
                WHERE x.lot_id = m.id
              )
            )
        ),
          0
      ) AS "onHand"
    FROM mark m
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE m.id = ${id}
  `;
  if (!row) return null;
  const own = ownAndMembers(db, id);
  const places = await db<MarkPage['places']>`
    SELECT c.code, c.name, t.name AS site, sum(s.quantity) AS quantity,
      c.kind = 'quarantine' AS quarantine, c.kind = 'transit' AS "underWay"
    FROM stock s
      JOIN place c ON c.id = s.place_id
      JOIN site t ON t.id = c.site_id
    WHERE s.quantity > 0 AND s.mark_id = ${own}
    GROUP BY c.id, t.name
    ORDER BY c.code
  `;
  const members = await db<MarkRef[]>`
    SELECT m.id, m.kind, m.number, p.code AS product, p.name, p.unit, m.state,
      coalesce(
        (
          SELECT sum(s.quantity)
          FROM stock s
          WHERE s.mark_id = m.id AND ${isOnHand(db, db`s.place_id`)}
        ),
          0
      ) AS quantity
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.lot_id = ${id}
    ORDER BY m.number_key
    LIMIT ${LISTED}
  `;
  const madeFrom = row.kind === 'serial' ? await readPartsOf(db, id) : await readMadeFrom(db, id);
  const wentInto = await db<MarkPage['wentInto']>`
    SELECT m.id, m.kind, m.number, p.code AS product, p.name, p.unit, m.state, o.quantity,
      e.document, e.id AS event
    FROM transformation_input i
      JOIN transformation_output o USING (transformation_id)
      JOIN transformation t ON t.id = i.transformation_id
      JOIN event e ON e.id = t.event_id
      JOIN mark m ON m.id = o.mark_id
      JOIN product p ON p.id = m.product_id
    WHERE i.mark_id = ${id}
      AND ${stands(db, db`i.transformation_id`)}
    UNION ALL
    SELECT m.id, m.kind, m.number, p.code, p.name, p.unit, m.state, f.quantity, e.document, e.id
    FROM fitting f
      JOIN event e ON e.id = f.from_event
      JOIN mark m ON m.id = f.host_id
      JOIN product p ON p.id = m.product_id
    WHERE f.component_id = ${id}
    ORDER BY event DESC, number
    LIMIT ${LISTED}
  `;
  const [cameFrom] = await db<NonNullable<MarkPage['cameFrom']>[]>`
    SELECT e.kind, t.name AS partner, e.document, e.id AS event
    FROM movement v
      JOIN event e ON e.id = v.event_id
      LEFT JOIN partner t ON t.id = e.partner_id
    WHERE e.kind IN ('receive', 'opening', 'gain', 'count', 'intake')
      AND v.mark_id = ${own}
      AND v.quantity > 0
      AND NOT is_taken_back(e.id, v.mark_id)
    ORDER BY e.kind = 'receive' DESC, e.id DESC
    LIMIT 1
  `;
  const [counts] = await db<{ members: number; into: number; made: boolean }[]>`
    SELECT EXISTS (SELECT FROM transformation_output o WHERE o.mark_id = ${id}) AS made,
      (SELECT count(*) FROM mark WHERE lot_id = ${id}) AS members,
      (
        SELECT count(DISTINCT o.mark_id)
        FROM transformation_input i
          JOIN transformation_output o USING (transformation_id)
        WHERE i.mark_id = ${id}
          AND ${stands(db, db`i.transformation_id`)}
      ) AS into
  `;
  const { lot_id, lot, lot_state, ...mark } = row;
  const trim = <T extends { quantity: string }>(rows: readonly T[]): T[] =>
    rows.map((one) => ({ ...one, quantity: trimZeros(one.quantity) }));
  return {
    mark: {
      ...mark,
      onHand: trimZeros(mark.onHand),
      lot: lot_id === null ? null : { id: lot_id, number: lot!, state: lot_state! }
    },
    places: trim(places),
    members: trim(members),
    memberCount: counts!.members,
    madeFrom: trim(madeFrom),
    made: counts!.made,
    wentInto: trim(wentInto),
    wentIntoCount: counts!.into,
    cameFrom: cameFrom ?? null,
    timeline: await readTimeline(db, id)
  };
}

/** What is in one unit now: of what went into its batch its even share. */
const readPartsOf = (db: Db, id: number): Promise<MarkRef[]> => db<MarkRef[]>`
  SELECT m.id, m.kind, m.number, p.code AS product, p.name, p.unit, m.state,
    round(n.went_in - n.came_out, 6)::text AS quantity
  FROM insides_of(ARRAY[${id}::bigint], ARRAY[NULL::bigint]) n
    JOIN mark m ON m.id = n.part
    JOIN product p ON p.id = m.product_id
  WHERE round(n.went_in - n.came_out, 6) > 0
  ORDER BY p.code, m.number_key
  LIMIT ${LISTED}
`;

/** All that went into a lot by what made it and stands. */
const readMadeFrom = (db: Db, id: number): Promise<MarkRef[]> => db<MarkRef[]>`
  SELECT m.id, m.kind, m.number, p.code AS product, p.name, p.unit, m.state,
    sum(i.quantity) AS quantity
  FROM transformation_output o
    JOIN transformation_input i USING (transformation_id)
    JOIN mark m ON m.id = i.mark_id
    JOIN product p ON p.id = m.product_id
  WHERE o.mark_id = ${id}
    AND ${stands(db, db`o.transformation_id`)}
  GROUP BY m.id, p.code, p.name, p.unit
  ORDER BY p.code, m.number_key
  LIMIT ${LISTED}
`;

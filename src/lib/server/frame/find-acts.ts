import { readActs, type Act } from '../../core/finding/acts.ts';
import { numberKey } from '../../core/numbers/number.ts';
import { mayDo, type Role } from '../../core/people/rights.ts';
import type { Db } from '../kernel/db/client.ts';
import { beginningWith, holding } from '../kernel/db/like.ts';
import type { Hit } from './hit.ts';

/** What one act is offered for at most. */
const MOST = 3;

/** Something an act may be done to: how its address names it, and how people do. */
interface Thing {
  of: string;
  title: string;
  under: string;
  exact: boolean;
}

/**
 * The acts a typed text asks for, each with what it is done to: `recall BOB-2511`, `count C1`, `new
 * sales`. Only what these roles may do.
 */
export async function findActs(db: Db, text: string, roles: readonly Role[]): Promise<Hit[]> {
  const asked = readActs(text).filter(({ act }) => mayDo(roles, act.right));
  const hits = await Promise.all(asked.map(({ act, of }) => hitsOf(db, act, of)));
  return hits.flat();
}

/** The act a text asks for, where it is whole and can be meant one way alone. */
export async function findAct(
  db: Db,
  text: string,
  roles: readonly Role[]
): Promise<{ href: string } | null> {
  const exact = (await findActs(db, text, roles)).filter((hit) => hit.exact);
  return exact.length === 1 ? { href: exact[0]!.href } : null;
}

async function hitsOf(db: Db, act: Act, of: string): Promise<Hit[]> {
  if (act.on === null)
    return [{ type: 'do', title: act.says, under: '', href: act.href(''), exact: false }];
  if (of === '') return [];
  const things = await thingsOf(db, act.on, of);
  return things.map((thing) => ({
    type: 'do',
    title: `${act.says} ${thing.title}`,
    under: thing.under,
    href: act.href(thing.of),
    exact: thing.exact
  }));
}

function thingsOf(db: Db, on: NonNullable<Act['on']>, of: string): Promise<Thing[]> {
  switch (on) {
    case 'mark':
      return findMarks(db, of, ['lot', 'serial']);
    case 'serial':
      return findMarks(db, of, ['serial']);
    case 'place':
      return findPlaces(db, of);
    case 'purchase':
    case 'sales':
    case 'work':
      return findOrders(db, on, of);
  }
}

const findMarks = (db: Db, of: string, kinds: readonly string[]): Promise<Thing[]> => db`
  SELECT m.id::text AS of, m.number AS title, p.code || ' ' || p.name AS under,
    m.number_key = ${numberKey(of)} AS exact
  FROM (
    SELECT id
    FROM mark
    WHERE number_key LIKE ${beginningWith(numberKey(of))}
    ORDER BY number_key USING ~<~
    LIMIT ${MOST * 2}
  ) f
    JOIN mark m ON m.id = f.id AND m.kind = ANY(${kinds as string[]})
    JOIN product p ON p.id = m.product_id
  ORDER BY exact DESC, m.number_key
  LIMIT ${MOST}
`;

/** People say the last of a place's code, or its name: what alone holds it is meant. */
const findPlaces = (db: Db, of: string): Promise<Thing[]> => db`
  SELECT p.code AS of, p.code AS title, s.name || ', ' || p.name AS under,
    upper(p.code) = ${numberKey(of)} OR count(*) OVER () = 1 AS exact
  FROM place p
    JOIN site s ON s.id = p.site_id
  WHERE p.kind <> 'transit' AND (p.code ILIKE ${holding(of)} OR p.name ILIKE ${holding(of)})
  ORDER BY exact DESC, p.code
  LIMIT ${MOST}
`;

const findOrders = (db: Db, kind: string, of: string): Promise<Thing[]> => db`
  SELECT o.number AS of, o.number AS title, coalesce(t.name, '') AS under,
    upper(o.number) = ${numberKey(of)} AS exact
  FROM trade_order o
    LEFT JOIN partner t ON t.id = o.partner_id
  WHERE o.kind = ${kind}
    AND o.closed_at IS NULL
    AND upper(o.number) LIKE ${beginningWith(numberKey(of))}
  ORDER BY exact DESC, o.number
  LIMIT ${MOST}
`;

import { stateOf } from '../kernel/db/what-counts.ts';
import { groupBy } from '../../core/group-by.ts';
import {
  drillScore,
  hindrances,
  scopeChange,
  standingOf,
  type AnswerRow,
  type ScopeChange,
  type ScopeRow,
  type Standing
} from '../../core/recall/reconcile.ts';
import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { reachedScope } from '../trace/trace.ts';
import { reachInTime } from '../trace/trace-by-sql.ts';

export interface RecallSummary {
  number: string;
  title: string;
  mock: boolean;
  state: 'open' | 'decided' | 'closed';
  openedAt: string;
  decidedAt: string | null;
  closedAt: string | null;
  who: string;
  suspects: number;
  customers: number;
  had: string;
  done: string;
}

export interface ScopeMark {
  id: number;
  kind: MarkKind;
  number: string | null;
  product: string;
  name: string;
  unit: string;
  state: MarkState;
  /** Its lot's state, where that is worse. */ standing: MarkState;
}
export interface CustomerGoods {
  partner: string;
  name: string;
  rows: {
    mark: number;
    kind: MarkKind;
    number: string | null;
    product: string;
    unit: string;
    event: number;
    document: string;
    day: string;
    quantity: string;
  }[];
}

export interface RecallPage {
  id: number;
  number: string;
  title: string;
  mock: boolean;
  hazard: string;
  request: string;
  targetMinutes: number | null;
  openedAt: string;
  openedBy: string;
  decidedAt: string | null;
  decidedBy: string | null;
  closedAt: string | null;
  closedBy: string | null;
  closingReason: string | null;
  suspects: (ScopeMark & { why: string })[];
  related: { number: string; title: string }[];
  /** What the scope would be, or since the decision what it was then. */
  customers: CustomerGoods[];
  /** What lies here now; and since the decision what lay here then. */
  here: (ScopeMark & { place: string; placeName: string; quantity: string })[];
  hereThen: RecallPage['here'] | null;
  /** All marks that hold something of the suspects. */
  reached: number;
  /** Whether what time cleared is taken in, and if not, how much that is. */
  beyondTime: boolean;
  cleared: { marks: number; customers: number };
  balances: {
    mark: number;
    in: string;
    onHand: string;
    used: string;
    shipped: string;
    scrapped: string;
    corrected: string;
    open: string;
  }[];
  standing: Standing;
  change: ScopeChange;
  changeRows: CustomerGoods[];
  notices: { id: number; partner: string; name: string; sentAt: string; who: string }[];
  answers: (AnswerRow & {
    id: number;
    name: string;
    number: string | null;
    product: string;
    unit: string;
    note: string;
    toldAt: string;
    who: string;
  })[];
  signatures: { who: string; at: string }[];
  log: { at: string; who: string; says: string }[];
  hindrances: string[];
  drill: {
    minutes: number | null;
    target: number;
    found: string;
    inTime: boolean | null;
    passed: boolean | null;
  } | null;
}

/** Where the goods of these marks are now, at customers and here; the marks themselves included. */
export async function liveScope(
  db: Db,
  suspects: readonly number[],
  beyondTime: boolean
): Promise<{
  marks: number[];
  /** What time cleared: marks, and who got of them or before. */
  cleared: { marks: number; customers: number };
  balances: RecallPage['balances'];
  customers: (ScopeRow & { partnerId: number })[];
  here: { mark: number; placeId: number; quantity: string }[];
}> {
  // Within a booking's transaction its own snapshot decides, and only SQL reads that.
  const cut = beyondTime ? { clocks: 'ignore' as const } : {};
  const { marks, cleared, clearedMarks, balances } =
    'savepoint' in db
      ? await reachInTime(db as Tx, suspects, 'downstream', cut)
      : await reachedScope(db, suspects, cut);
  // What left before any of it came is with its customers, and they have none of it.
  const clear = new Set(cleared.map((end) => `${end.mark} ${end.event}`));
  const [customers, here] = await Promise.all([
    db<(ScopeRow & { partnerId: number })[]>`
      SELECT t.code AS partner, t.id AS "partnerId", s.mark_id AS mark, s.event_id AS event,
        s.quantity
      FROM sold s
        JOIN event e ON e.id = s.event_id
        JOIN partner t ON t.id = e.partner_id
      WHERE s.mark_id = ANY(${marks}) AND s.quantity > 0
      ORDER BY t.code, s.event_id, s.mark_id
    `,
    db<{ mark: number; placeId: number; quantity: string }[]>`
      SELECT mark_id AS mark, place_id AS "placeId", quantity
      FROM stock
      WHERE mark_id = ANY(${marks}) AND quantity > 0
      ORDER BY place_id, mark_id
    `
  ]);
  return {
    marks,
    balances,
    cleared: { marks: clearedMarks, customers: new Set(cleared.map((end) => end.partner)).size },
    customers: customers
      .filter((row) => !clear.has(`${row.mark} ${row.event}`))
      .map((row) => ({ ...row, quantity: trimZeros(row.quantity) })),
    here: here.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }))
  };
}

/** All cases, open ones first. */
export async function listRecalls(db: Db): Promise<RecallSummary[]> {
  const rows = await db<
    (Omit<RecallSummary, 'state' | 'openedAt' | 'decidedAt' | 'closedAt'> & {
      opened_at: Date;
      decided_at: Date | null;
      closed_at: Date | null;
    })[]
  >`
    SELECT c.number, c.title, c.mock, c.opened_at, c.decided_at, c.closed_at, p.name AS who,
      (SELECT count(*)::int FROM recall_suspect s WHERE s.case_id = c.id) AS suspects,
      (
        SELECT count(DISTINCT s.partner_id)::int FROM recall_scope_customer s WHERE s.case_id = c.id
      ) AS customers,
      coalesce(
        (SELECT sum(s.quantity) FROM recall_scope_customer s WHERE s.case_id = c.id), 0
      ) AS had,
      coalesce((SELECT sum(a.quantity) FROM recall_answer a WHERE a.case_id = c.id), 0) AS done
    FROM recall_case c
      JOIN person p ON p.id = c.opened_by
    ORDER BY c.closed_at IS NOT NULL, c.id DESC
    LIMIT 200
  `;
  return rows.map(({ opened_at, decided_at, closed_at, ...row }) => ({
    ...row,
    had: trimZeros(row.had),
    done: trimZeros(row.done),
    state: closed_at ? 'closed' : decided_at ? 'decided' : 'open',
    openedAt: opened_at.toISOString(),
    decidedAt: decided_at?.toISOString() ?? null,
    closedAt: closed_at?.toISOString() ?? null
  }));
}

/**
 * A case with everything of it; null where there is none. @param now for the stop-watch of a drill
 */
export async function readRecall(sql: Sql, number: string, now: Date): Promise<RecallPage | null> {
  const [row] = await sql<
    {
      id: number;
      number: string;
      title: string;
      mock: boolean;
      hazard: string;
      request: string;
      target_minutes: number | null;
      opened_at: Date;
      opened: string;
      decided_at: Date | null;
      decided: string | null;
      closed_at: Date | null;
      closed: string | null;
      closing_reason: string | null;
      beyond_time: boolean;
    }[]
  >`
    SELECT c.id, c.number, c.title, c.mock, c.hazard, c.request, c.target_minutes, c.opened_at,
      o.name AS opened, c.decided_at, d.name AS decided, c.closed_at, z.name AS closed,
      c.closing_reason, c.beyond_time
    FROM recall_case c
      JOIN person o ON o.id = c.opened_by
      LEFT JOIN person d ON d.id = c.decided_by
      LEFT JOIN person z ON z.id = c.closed_by
    WHERE upper(c.number) = ${numberKey(number)}
  `;
  if (!row) return null;
  const suspects = await sql<
    { mark: number; why: string }[]
  >`SELECT mark_id AS mark, why FROM recall_suspect WHERE case_id = ${row.id} ORDER BY mark_id`;
  const ids = suspects.map((one) => one.mark);
  const [live, frozenCustomers, frozenHere, notices, answers, signatures, log, related] =
    await Promise.all([
      liveScope(sql, ids, row.beyond_time),
      sql<ScopeRow[]>`
        SELECT t.code AS partner, s.mark_id AS mark, s.event_id AS event, s.quantity
        FROM recall_scope_customer s
          JOIN partner t ON t.id = s.partner_id
        WHERE s.case_id = ${row.id}
        ORDER BY t.code, s.event_id, s.mark_id
      `,
      sql<{ mark: number; placeId: number; quantity: string }[]>`
        SELECT mark_id AS mark, place_id AS "placeId", quantity
        FROM recall_scope_here
        WHERE case_id = ${row.id}
        ORDER BY place_id, mark_id
      `,
      sql<{ id: number; partner: string; name: string; sent_at: Date; who: string }[]>`
        SELECT n.id, t.code AS partner, t.name, n.sent_at, p.name AS who
        FROM recall_notice n
          JOIN partner t ON t.id = n.partner_id
          JOIN person p ON p.id = n.sent_by
        WHERE n.case_id = ${row.id}
        ORDER BY n.id
      `,
      sql<
        (AnswerRow & {
          id: number;
          name: string;
          number: string | null;
          product: string;
          unit: string;
          note: string;
          told_at: Date;
          who: string;
        })[]
      >`
        SELECT a.id, t.code AS partner, t.name, a.mark_id AS mark, m.number, q.code AS product,
          q.unit, a.outcome, a.quantity, a.note, a.told_at, p.name AS who
        FROM recall_answer a
          JOIN partner t ON t.id = a.partner_id
          JOIN mark m ON m.id = a.mark_id
          JOIN product q ON q.id = m.product_id
          JOIN person p ON p.id = a.told_by
        WHERE a.case_id = ${row.id}
        ORDER BY a.id
      `,
      sql<{ who: string; at: Date }[]>`
        SELECT p.name AS who, s.signed_at AS at
        FROM recall_signature s
          JOIN person p ON p.id = s.person_id
        WHERE s.case_id = ${row.id}
        ORDER BY s.signed_at
      `,
      sql<{ at: Date; who: string; says: string }[]>`
        SELECT l.at, p.name AS who, l.says
        FROM recall_log l
          JOIN person p ON p.id = l.by_id
        WHERE l.case_id = ${row.id}
        ORDER BY l.id
      `,
      sql<{ number: string; title: string }[]>`
        SELECT c.number, c.title
        FROM recall_related r
          JOIN recall_case c ON c.id = r.other_id
        WHERE r.case_id = ${row.id}
        UNION
        SELECT c.number, c.title
        FROM recall_related r
          JOIN recall_case c ON c.id = r.case_id
        WHERE r.other_id = ${row.id}
        ORDER BY 1
      `
    ]);
  const frozen = row.decided_at !== null;
  const customers = frozen
    ? frozenCustomers.map((one) => ({ ...one, quantity: trimZeros(one.quantity) }))
    : live.customers;
  const hereThen = frozenHere.map((one) => ({ ...one, quantity: trimZeros(one.quantity) }));
  const change: ScopeChange = frozen
    ? scopeChange(
        {
          customers,
          here: new Set(hereThen.map((one) => one.mark)),
          marks: new Set([...customers.map((one) => one.mark), ...ids])
        },
        { customers: live.customers, here: new Set(live.here.map((one) => one.mark)) }
      )
    : { shipments: [], here: [] };
  const marks = await readScopeMarks(sql, [
    ...new Set([
      ...ids,
      ...customers.map((one) => one.mark),
      ...hereThen.map((one) => one.mark),
      ...change.shipments.map((one) => one.mark),
      ...live.here.map((one) => one.mark)
    ])
  ]);
  const places = new Map(
    (
      await sql<{ id: number; code: string; name: string }[]>`
        SELECT p.id, p.code, s.name || ', ' || p.name AS name
        FROM place p
          JOIN site s ON s.id = p.site_id
        WHERE p.id = ANY(${[...new Set([...live.here, ...hereThen].map((one) => one.placeId))]})
      `
    ).map((one) => [one.id, one])
  );
  const told = answers.map(({ told_at, ...one }) => ({
    ...one,
    quantity: trimZeros(one.quantity),
    toldAt: told_at.toISOString()
  }));
  const standing = standingOf(customers, told, new Set(notices.map((one) => one.partner)));
  const usable = new Set(
    live.here.filter((one) => marks.get(one.mark)?.standing === 'usable').map((one) => one.mark)
  ).size;
  const lying = (one: { mark: number; placeId: number; quantity: string }) => ({
    ...marks.get(one.mark)!,
    place: places.get(one.placeId)?.code ?? '',
    placeName: places.get(one.placeId)?.name ?? '',
    quantity: one.quantity
  });
  const minutes = row.decided_at
    ? Math.round((row.decided_at.getTime() - row.opened_at.getTime()) / 6000) / 10
    : row.closed_at
      ? null
      : Math.round((now.getTime() - row.opened_at.getTime()) / 6000) / 10;
  const target = row.target_minutes ?? 240;
  return {
    id: row.id,
    number: row.number,
    title: row.title,
    mock: row.mock,
    hazard: row.hazard,
    request: row.request,
    targetMinutes: row.target_minutes,
    openedAt: row.opened_at.toISOString(),
    openedBy: row.opened,
    decidedAt: row.decided_at?.toISOString() ?? null,
    decidedBy: row.decided,
    closedAt: row.closed_at?.toISOString() ?? null,
    closedBy: row.closed,
    closingReason: row.closing_reason,
    suspects: suspects.map((one) => ({ ...marks.get(one.mark)!, why: one.why })),
    related: [...related],
    customers: await withDocuments(sql, customers, marks),
    here: live.here.map(lying),
    hereThen: frozen ? hereThen.map(lying) : null,
    reached: live.marks.length,
    beyondTime: row.beyond_time,
    cleared: live.cleared,
    balances: live.balances,
    standing,
    change,
    changeRows: await withDocuments(sql, change.shipments, marks),
    notices: notices.map(({ sent_at, ...one }) => ({ ...one, sentAt: sent_at.toISOString() })),
    answers: told,
    signatures: signatures.map((one) => ({ who: one.who, at: one.at.toISOString() })),
    log: log.map((one) => ({ ...one, at: one.at.toISOString() })),
    hindrances: hindrances(standing, change, { usable }, signatures.length, row.mock),
    drill: row.mock
      ? {
          minutes,
          target,
          ...drillScore(live.balances, row.decided_at ? minutes : null, target)
        }
      : null
  };
}

async function readScopeMarks(db: Db, ids: readonly number[]): Promise<Map<number, ScopeMark>> {
  const rows = await db<ScopeMark[]>`
    SELECT m.id, m.kind, m.number, p.code AS product, p.name, p.unit, m.state,
      ${stateOf(db)} AS standing
    FROM mark m
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE m.id = ANY(${ids as number[]})
  `;
  return new Map(rows.map((row) => [row.id, row]));
}

/** Goods at customers with the papers they left on. */
async function withDocuments(
  db: Db,
  rows: readonly ScopeRow[],
  marks: ReadonlyMap<number, ScopeMark>
): Promise<CustomerGoods[]> {
  if (rows.length === 0) return [];
  const events = new Map(
    (
      await db<{ id: number; document: string; day: string }[]>`
        SELECT id, document, happened_at::date AS day
        FROM event
        WHERE id = ANY(${[...new Set(rows.map((row) => row.event))]})
      `
    ).map((row) => [row.id, row])
  );
  const names = new Map(
    (
      await db<{ code: string; name: string }[]>`
        SELECT code, name
        FROM partner
        WHERE code = ANY(${[...new Set(rows.map((row) => row.partner))]})
      `
    ).map((row) => [row.code, row.name])
  );
  return [...groupBy(rows, (row) => row.partner)].map(([partner, list]) => ({
    partner,
    name: names.get(partner) ?? partner,
    rows: list.map((row) => {
      const mark = marks.get(row.mark)!,
        event = events.get(row.event)!;
      return {
        mark: row.mark,
        kind: mark.kind,
        number: mark.number,
        product: mark.product,
        unit: mark.unit,
        event: row.event,
        document: event.document,
        day: event.day,
        quantity: row.quantity
      };
    })
  }));
}

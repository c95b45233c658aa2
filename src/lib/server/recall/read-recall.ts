import { readSigned, type SignatureShown } from '../people/signatures.ts';
import type { Language } from '../../core/papers/language.ts';
import { readWords, type CaseWords } from './case-words.ts';
import type { ListedMark } from '../../core/catalogue/listed-mark.ts';
import { stateOf } from '../kernel/db/what-counts.ts';
import { groupBy } from '../../core/group-by.ts';
import { drillScore, type DrillScore } from '../../core/recall/drill-score.ts';
import { hindrances, scopeChange, type ScopeChange } from '../../core/recall/reconcile.ts';
import { standingOf, type ScopeRow, type Standing } from '../../core/recall/standing.ts';
import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { liveScope, type SuspectBalance } from './live-scope.ts';
import {
  readAnswers,
  readFrozenScope,
  readNotices,
  type SentNotice,
  type ToldAnswer
} from './read-scope.ts';

export interface ScopeMark extends ListedMark {
  id: number;
  /** Its lot's state, where that is worse. */ standing: MarkState;
}
export interface CustomerGoods {
  partner: string;
  name: string;
  /** Where a letter goes, and who reads it; empty where nobody said. */
  address: string;
  contact: string;
  /** The one their letters are written in. */
  language: Language;
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
  /** The case in other languages, as far as somebody said it in them. */
  words: CaseWords[];
  targetMinutes: number | null;
  /** Days without an answer after which a customer is reminded; null for never, by itself. */
  remindDays: number | null;
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
  balances: SuspectBalance[];
  standing: Standing;
  change: ScopeChange;
  changeRows: CustomerGoods[];
  notices: SentNotice[];
  answers: ToldAnswer[];
  signatures: { who: string; at: string }[];
  /** Who signed its scope, where the plans of its suspects ask for that. */
  scopeSigned: SignatureShown[];
  log: { at: string; who: string; says: string }[];
  hindrances: string[];
  drill: ({ minutes: number | null; target: number } & DrillScore) | null;
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
      remind_days: number | null;
    }[]
  >`
    SELECT c.id, c.number, c.title, c.mock, c.hazard, c.request, c.target_minutes, c.opened_at,
      o.name AS opened, c.decided_at, d.name AS decided, c.closed_at, z.name AS closed,
      c.closing_reason, c.beyond_time, c.remind_days
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
  const [live, frozenCustomers, frozenHere, words, notices, answers, signatures, log, related] =
    await Promise.all([
      liveScope(sql, ids, row.beyond_time),
      readFrozenScope(sql, row.id),
      sql<{ mark: number; placeId: number; quantity: string }[]>`
        SELECT mark_id AS mark, place_id AS "placeId", quantity
        FROM recall_scope_here
        WHERE case_id = ${row.id}
        ORDER BY place_id, mark_id
      `,
      readWords(sql, row.id),
      readNotices(sql, row.id),
      readAnswers(sql, row.id),
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
  const customers = frozen ? frozenCustomers : live.customers;
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
  const notified = new Set(notices.map((one) => one.partner));
  const standing = standingOf(customers, answers, notified, row.mock);
  const usable = new Set(
    live.here.filter((one) => marks.get(one.mark)?.standing === 'usable').map((one) => one.mark)
  ).size;
  const lying = (one: { mark: number; placeId: number; quantity: string }) => ({
    ...marks.get(one.mark)!,
    place: places.get(one.placeId)?.code ?? '',
    placeName: places.get(one.placeId)?.name ?? '',
    quantity: one.quantity
  });
  const sinceOpened = (then: Date): number =>
    Math.round((then.getTime() - row.opened_at.getTime()) / 6000) / 10;
  const decided = row.decided_at && sinceOpened(row.decided_at);
  const elapsed = sinceOpened(row.closed_at ?? now);
  const target = row.target_minutes ?? 240;
  return {
    id: row.id,
    number: row.number,
    title: row.title,
    mock: row.mock,
    hazard: row.hazard,
    request: row.request,
    words,
    targetMinutes: row.target_minutes,
    remindDays: row.remind_days,
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
    notices,
    answers,
    scopeSigned: await readSigned(sql, { case: row.id }),
    signatures: signatures.map((one) => ({ who: one.who, at: one.at.toISOString() })),
    log: log.map((one) => ({ ...one, at: one.at.toISOString() })),
    hindrances: hindrances(standing, change, { usable }, signatures.length, row.mock),
    drill: row.mock
      ? {
          minutes: decided ?? (row.closed_at ? null : elapsed),
          target,
          ...drillScore({
            ...{
              balances: live.balances,
              decided,
              elapsed,
              target,
              closed: row.closed_at !== null
            },
            scope: customers,
            answers: answers.map((one) => ({ ...one, minutes: sinceOpened(new Date(one.toldAt)) }))
          })
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
      await db<(Addressed & { code: string })[]>`
        SELECT code, name, address, contact, language
        FROM partner
        WHERE code = ANY(${[...new Set(rows.map((row) => row.partner))]})
      `
    ).map((row) => [row.code, row])
  );
  return [...groupBy(rows, (row) => row.partner)].map(([partner, list]) => ({
    partner,
    ...addressed(names.get(partner)!),
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

type Addressed = Pick<CustomerGoods, 'name' | 'address' | 'contact' | 'language'>;
const addressed = ({ name, address, contact, language }: Addressed): Addressed => ({
  ...{ name, address, contact, language }
});

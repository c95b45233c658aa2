import { groupBy } from '../../core/group-by.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Language } from '../../core/papers/language.ts';
import { company } from '../catalogue/company.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { requireRight } from '../kernel/rights.ts';
import { lockCase, log, refuse, stillOpen, type CaseRow } from './case-row.ts';
import { openWith, type StillOpen } from './still-open.ts';

interface NoticeGoods {
  product: string;
  productName: string;
  number: string | null;
  kind: string;
  unit: string;
  quantity: string;
  document: string;
  day: string;
}

/** A letter as it is kept: what stands in it was true on the day it was sent. */
export interface NoticeContent {
  number: string;
  mock: boolean;
  title: string;
  hazard: string;
  request: string;
  from: string;
  address: string;
  partner: string;
  name: string;
  /** The customer's own address and who reads it; letters of before had none. */
  toAddress?: string;
  contact?: string;
  /** The one the customer read; letters of before are in English. */
  language?: Language;
  /** Of a reminder: when the first letter was sent. Its goods are what is still open. */
  remindsOf?: string;
  goods: NoticeGoods[];
}

interface GoodsRow extends NoticeGoods {
  mark: number;
  partner: string;
  name: string;
  partnerId: number;
  toAddress: string;
  contact: string;
  language: Language;
  title: string;
  hazard: string;
  request: string;
}

/**
 * Writes to the customers of the scope, all or those named: a letter each, put into the outbox,
 * kept as it was sent. @throws Problem 403, 404, 409 before the scope is decided, 422
 */
export async function sendNotices(
  sql: Sql,
  actor: Actor,
  number: string,
  partners: readonly string[] | null,
  key: string | null = null
): Promise<{ sent: number }> {
  return once(sql, actor, number, key, async (tx, row) => {
    const goods = await readGoods(tx, row.id, partners);
    if (goods.length === 0) nobody(partners, 'No customer has anything of it.');
    return post(tx, row, actor, goods, { kind: 'notice', byItself: false, key });
  });
}

/**
 * Reminds customers who were written to and have not answered for all they had: all of them, or
 * those named. The letter says what is still open. @throws Problem 403, 404, 409, 422
 */
export async function sendReminders(
  sql: Sql,
  actor: Actor,
  number: string,
  partners: readonly string[] | null,
  key: string | null = null
): Promise<{ sent: number }> {
  return once(sql, actor, number, key, async (tx, row) => {
    const open = await openWith(tx, row);
    const goods = stillOpenOnly(await readGoods(tx, row.id, partners), open);
    if (goods.length === 0)
      nobody(partners, 'Everybody who was written to has answered for all they had.');
    return post(tx, row, actor, goods, { kind: 'reminder', byItself: false, key }, open);
  });
}

/** Writes behind the lock of a decided case; what its key sent before is answered, not sent again. */
async function once(
  sql: Sql,
  actor: Actor,
  number: string,
  key: string | null,
  write: (tx: Tx, row: CaseRow) => Promise<{ sent: number }>
): Promise<{ sent: number }> {
  requireRight(actor, 'recall');
  return (await sql.begin(async (tx) => {
    const row = await lockDecided(tx, number);
    const before = await sentBefore(tx, row.id, actor, key);
    return before > 0 ? { sent: before } : await write(tx, row);
  })) as { sent: number };
}

async function lockDecided(tx: Tx, number: string): Promise<CaseRow> {
  const row = await lockCase(tx, number);
  stillOpen(row);
  if (row.decided) return row;
  const message = 'Decide the scope first: the letters say what each customer has.';
  return refuse(409, 'The scope is not decided', 'balance.open', message, 'number');
}

function nobody(partners: readonly string[] | null, all: string): never {
  const named = partners?.map(shown).join(', ');
  const message = named ? `${named}: no such customer is in the scope, or none to write to.` : all;
  return refuse(422, 'Nobody to write to', 'partner.unknown', message, 'partners');
}

export const readGoods = (
  tx: Tx,
  caseId: number,
  partners: readonly string[] | null
): Promise<GoodsRow[]> => tx<GoodsRow[]>`
  SELECT s.mark_id AS mark, t.code AS partner, t.name, t.id AS "partnerId",
    t.address AS "toAddress", t.contact, t.language, coalesce(w.title, c.title) AS title,
    coalesce(w.hazard, c.hazard) AS hazard, coalesce(w.request, c.request) AS request,
    p.code AS product, p.name AS "productName", m.number, m.kind, p.unit, trim_scale(s.quantity)::text AS quantity,
    e.document, e.happened_at::date AS day
  FROM recall_scope_customer s
    JOIN recall_case c ON c.id = s.case_id
    JOIN partner t ON t.id = s.partner_id
    LEFT JOIN recall_words w ON w.case_id = c.id AND w.language = t.language
    JOIN mark m ON m.id = s.mark_id
    JOIN product p ON p.id = m.product_id
    JOIN event e ON e.id = s.event_id
  WHERE s.case_id = ${caseId}
    AND (${partners === null} OR upper(t.code) = ANY(${(partners ?? []).map(numberKey)}))
  ORDER BY t.code, e.happened_at, p.code, m.number_key
`;

/** A line for each mark of which something is open still, with the last paper it left on. */
export function stillOpenOnly(goods: readonly GoodsRow[], open: StillOpen): GoodsRow[] {
  const last = new Map(goods.map((row) => [`${row.partner} ${row.mark}`, row]));
  return [...last.values()].flatMap((row) => {
    const quantity = open.get(row.partner)?.marks.get(row.mark);
    return quantity === undefined ? [] : [{ ...row, quantity }];
  });
}

interface Letter {
  kind: 'notice' | 'reminder';
  byItself: boolean;
  /** Idempotency key of the request; null where none was given. */
  key: string | null;
}

/** How many letters this key sent before. */
async function sentBefore(
  tx: Tx,
  caseId: number,
  actor: Actor,
  key: string | null
): Promise<number> {
  if (key === null) return 0;
  const [row] = await tx<[{ count: number }]>`
    SELECT count(*)::int AS count
    FROM recall_notice
    WHERE case_id = ${caseId} AND sent_by = ${actor.personId} AND key = ${key}
  `;
  return row.count;
}

/** Puts a letter to each customer of the goods into the outbox. */
export async function post(
  tx: Tx,
  row: CaseRow,
  actor: Actor,
  goods: readonly GoodsRow[],
  letter: Letter,
  open?: StillOpen
): Promise<{ sent: number }> {
  const us = await company(tx);
  const byPartner = groupBy(goods, (one) => one.partner);
  for (const [partner, rows] of byPartner) {
    const content: NoticeContent = {
      ...{ number: row.number, mock: row.mock, from: us.name, address: us.address },
      ...letterTo(rows[0]!),
      ...(open ? { remindsOf: open.get(partner)!.firstLetter } : {}),
      goods: rows.map(goodsOf)
    };
    await tx`
      INSERT INTO recall_notice (case_id, partner_id, content, sent_by, kind, by_itself, key)
      VALUES (
        ${row.id}, ${rows[0]!.partnerId}, ${tx.json(content as never)}, ${actor.personId},
          ${letter.kind}, ${letter.byItself}, ${letter.key}
      )
    `;
  }
  await log(tx, row.id, actor, sayPosted(letter, [...byPartner.keys()]));
  return { sent: byPartner.size };
}

function sayPosted({ kind, byItself }: Letter, partners: readonly string[]): string {
  const letters = `${partners.length} ${kind}${partners.length === 1 ? '' : 's'}`;
  const when = byItself ? ', as they were due' : '';
  return `${letters} into the outbox${when}: ${partners.join(', ')}.`;
}

const letterTo = ({
  title,
  hazard,
  request,
  partner,
  name,
  toAddress,
  contact,
  language
}: GoodsRow): Omit<NoticeContent, 'number' | 'mock' | 'from' | 'address' | 'goods'> => ({
  ...{ title, hazard, request, partner, name, toAddress, contact, language }
});

const goodsOf = ({
  product,
  productName,
  number,
  kind,
  unit,
  quantity,
  document,
  day
}: GoodsRow): NoticeGoods => ({
  ...{ product, productName, number, kind, unit, quantity, document, day }
});

/** A letter as it was sent. */
export async function readNotice(
  db: Db,
  number: string,
  id: number
): Promise<{ content: NoticeContent; sentAt: string } | null> {
  const [row] = await db<{ content: NoticeContent; sent_at: Date }[]>`
    SELECT n.content, n.sent_at
    FROM recall_notice n
      JOIN recall_case c ON c.id = n.case_id
    WHERE n.id = ${id} AND upper(c.number) = ${numberKey(number)}
  `;
  return row ? { content: row.content, sentAt: row.sent_at.toISOString() } : null;
}

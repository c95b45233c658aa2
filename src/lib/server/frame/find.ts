import type { ListedMark } from '../../core/catalogue/listed-mark.ts';
import { isOnHand } from '../kernel/db/what-counts.ts';
import { sayDay } from '../../core/calendar/say-day.ts';
import { looksLikeSymbol, readElementString } from '../../core/gs1/element-string.ts';
import { numberKey, readNumber } from '../../core/numbers/number.ts';
import type { Role } from '../../core/people/rights.ts';
import type { Db } from '../kernel/db/client.ts';
import { beginningWith, holding } from '../kernel/db/like.ts';
import { calledBefore } from '../stock/marks.ts';
import { findActs } from './find-acts.ts';
import { findPapers } from './find-papers.ts';
import type { Hit } from './hit.ts';
import { readUnitPage } from '../shipping/units.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

const MOST = 12;
export const SCREEN_OF_ORDER: Record<string, string> = {
  purchase: '/receive',
  work: '/build',
  sales: '/ship'
};

/**
 * What a scan or a typed text can mean: marks by our or the supplier's number, orders and events by
 * document, partners and products by code or name. A GS1 symbol means the mark it names. Exact hits
 * come first.
 * @param today `YYYY-MM-DD`
 * @param roles of whoever asks: an act is offered to who may do it
 * @param here the path of the screen they are at: of what fits as well, what is done there comes first
 */
export async function find(
  db: Db,
  text: string,
  { today, roles = [], here = '/' }: { today: string; roles?: readonly Role[]; here?: string }
): Promise<Hit[]> {
  const [acts, things] = await Promise.all([
    findActs(db, text, roles),
    findThings(db, text, today)
  ]);
  const room = here.split('/')[1] ?? '';
  const isHere = (hit: Hit): boolean => room !== '' && hit.href.startsWith(`/${room}/`);
  const hits = [...acts, ...things];
  return [
    ...hits.filter((hit) => hit.exact),
    ...hits.filter((hit) => !hit.exact && isHere(hit)),
    ...hits.filter((hit) => !hit.exact && !isHere(hit))
  ].slice(0, MOST);
}

async function findThings(db: Db, text: string, today: string): Promise<Hit[]> {
  const unit = await findUnit(db, text);
  if (unit) return [unit];
  if (looksLikeSymbol(text)) {
    const reading = readElementString(text, today);
    if (reading.ok) return findSymbol(db, reading.symbol);
  }
  if (!readNumber(text).ok) return findNames(db, text);
  const key = numberKey(text);
  const beginning = beginningWith(key);
  const [marks, orders, events, announced, names, papers] = await Promise.all([
    db<MarkHit[]>`
      SELECT m.id, m.kind, m.number, p.code AS product, p.name, p.unit, m.state, m.supplier_number,
        coalesce(
          (
          SELECT sum(s.quantity)
          FROM stock s
          WHERE s.mark_id = m.id AND s.quantity > 0 AND ${isOnHand(db, db`s.place_id`)}
        ),
          0
        ) AS on_hand,
        (
          SELECT c.old_value
          FROM mark_change c
          WHERE c.mark_id = m.id
            AND c.field IN ('number', 'supplier_number')
            AND upper(c.old_value) = ${key}
          LIMIT 1
        ) AS before,
        (
          m.number_key = ${key}
            OR upper(m.supplier_number) = ${key}
            OR m.id = ANY(${calledBefore(db, key)})
        ) AS exact
      FROM (
        -- In the order of the index, so that the first are found without the rest.
        (
          SELECT id
          FROM mark
          WHERE number_key LIKE ${beginning}
          ORDER BY number_key USING ~<~
          LIMIT ${MOST}
        )
        UNION
        SELECT id
        FROM mark
        WHERE number_key = ${key}
        UNION
        SELECT id
        FROM mark
        WHERE upper(supplier_number) = ${key}
        UNION
        SELECT unnest(${calledBefore(db, key)})
      ) f
        JOIN mark m ON m.id = f.id
        JOIN product p ON p.id = m.product_id
      ORDER BY exact DESC, m.number_key
      LIMIT ${MOST}
    `,
    db<{ kind: string; number: string; partner: string | null; due: string; exact: boolean }[]>`
      SELECT o.kind, o.number, t.name AS partner, o.due_on AS due, upper(o.number) = ${key} AS exact
      FROM trade_order o
        LEFT JOIN partner t ON t.id = o.partner_id
      WHERE upper(o.number) LIKE ${beginning}
      ORDER BY exact DESC, o.number
      LIMIT ${MOST}
    `,
    db<
      {
        id: number;
        kind: string;
        document: string;
        reference: string | null;
        day: string;
        exact: boolean;
      }[]
    >`
      SELECT e.id, e.kind, e.document, e.reference, e.happened_at::date AS day, true AS exact
      FROM event e
      WHERE e.id IN (
        SELECT id
        FROM event
        WHERE upper(document) = ${key} AND order_id IS NULL
        UNION ALL
        SELECT id
        FROM event
        WHERE upper(reference) = ${key}
      )
      ORDER BY e.id DESC
      LIMIT ${MOST}
    `,
    db<{ number: string; product: string; order: string; partner: string | null }[]>`
      SELECT a.serial AS number, p.code AS product, o.number AS order, t.name AS partner
      FROM announced_number a
        JOIN trade_order o ON o.id = a.order_id
        JOIN order_line l USING (order_id, line)
        JOIN product p ON p.id = l.product_id
        LEFT JOIN partner t ON t.id = o.partner_id
      WHERE upper(a.serial) = ${key}
        AND NOT EXISTS (
          SELECT
          FROM mark m
          WHERE m.product_id = l.product_id AND m.kind = 'serial' AND m.number_key = ${key}
        )
      LIMIT 3
    `,
    findNames(db, text),
    findPapers(db, key)
  ]);
  return [
    ...marks.map(markHit),
    ...orders.map((row): Hit => ({
      type: 'order',
      title: row.number,
      under: `${row.kind} order${row.partner ? ` · ${row.partner}` : ''} · due ${sayDay(row.due)}`,
      href: `${SCREEN_OF_ORDER[row.kind]}/${encodeURIComponent(row.number)}`,
      exact: row.exact
    })),
    ...events.map((row): Hit => ({
      type: 'event',
      title: row.document,
      under: `${row.kind}, ${sayDay(row.day)}${row.reference ? ` · ${row.reference}` : ''}`,
      href: `/events/${row.id}`,
      exact: row.exact
    })),
    ...announced.map((row): Hit => ({
      type: 'announced',
      title: row.number,
      under: `${row.product}, not here yet: announced on ${row.order}${row.partner ? ` by ${row.partner}` : ''}`,
      href: `/receive/${encodeURIComponent(row.order)}`,
      exact: true
    })),
    ...papers,
    ...names
  ];
}

/** A carton or pallet, by its SSCC. */
async function findUnit(db: Db, text: string): Promise<Hit | null> {
  const unit = await readUnitPage(db, text);
  return (
    unit && {
      type: unit.kind,
      title: unit.sscc,
      under: `${unit.summary.map((row) => `${row.quantity} ${row.product}`).join(', ') || 'empty'}${unit.order ? ` · ${unit.order}` : ''}${unit.shipped ? ' · shipped' : ''}`,
      href: `/units/${unit.sscc}`,
      exact: true
    }
  );
}

interface MarkHit extends ListedMark {
  id: number;
  supplier_number: string | null;
  on_hand: string;
  exact: boolean;
  /** What it was called before an amendment, where that was asked for. */ before?: string | null;
}

const markHit = (row: MarkHit): Hit => ({
  type: row.kind === 'bulk' ? 'unmarked' : row.kind,
  title: row.number ?? row.product,
  href: `/marks/${row.id}`,
  exact: row.exact,
  under: `${row.product} ${row.name} · ${trimZeros(row.on_hand)} ${row.unit} on hand${row.state === 'usable' ? '' : ` · ${row.state}`}${row.supplier_number ? ` · theirs ${row.supplier_number}` : ''}${row.before ? ` · was ${row.before}` : ''}`
});

async function findSymbol(
  db: Db,
  symbol: { gtin?: string; lot?: string; serial?: string }
): Promise<Hit[]> {
  const number = symbol.serial ?? symbol.lot;
  if (number === undefined) {
    const rows =
      symbol.gtin === undefined
        ? []
        : await db<{ code: string; name: string }[]>`
          SELECT code, name
          FROM product p
          WHERE gtin = ${symbol.gtin}
            OR EXISTS (
              SELECT FROM product_unit u WHERE u.product_id = p.id AND u.gtin = ${symbol.gtin}
            )
        `;
    return rows.map(productHit);
  }
  const rows = await db<MarkHit[]>`
    SELECT m.id, m.kind, m.number, p.code AS product, p.name, p.unit, m.state, m.supplier_number,
      true AS exact,
      coalesce(
        (
          SELECT sum(s.quantity)
          FROM stock s
          WHERE s.mark_id = m.id AND s.quantity > 0 AND ${isOnHand(db, db`s.place_id`)}
        ),
          0
      ) AS on_hand
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.number_key = ${numberKey(number)}
      AND m.kind = ${symbol.serial === undefined ? 'lot' : 'serial'} ${
        symbol.gtin === undefined
          ? db``
          : db`
        AND (
          p.gtin = ${symbol.gtin}
            OR EXISTS (
              SELECT FROM product_unit u WHERE u.product_id = p.id AND u.gtin = ${symbol.gtin}
            )
        )
      `
      }
    LIMIT ${MOST}
  `;
  return rows.map(markHit);
}

const productHit = (row: { code: string; name: string }): Hit => ({
  type: 'product',
  title: row.code,
  under: row.name,
  href: `/on-hand?q=${encodeURIComponent(row.code)}`,
  exact: true
});

async function findNames(db: Db, text: string): Promise<Hit[]> {
  if (text.trim().length < 2) return [];
  const pattern = holding(text.trim());
  const products = await db<{ code: string; name: string; exact: boolean }[]>`
    SELECT code, name, upper(code) = upper(${text.trim()}) AS exact
    FROM product
    WHERE code ILIKE ${pattern} OR name ILIKE ${pattern}
    ORDER BY exact DESC, code
    LIMIT 6
  `;
  const partners = await db<{ code: string; name: string }[]>`
    SELECT code, name
    FROM partner
    WHERE code ILIKE ${pattern} OR name ILIKE ${pattern}
    ORDER BY name
    LIMIT 6
  `;
  return [
    ...products.map((row) => ({ ...productHit(row), exact: row.exact })),
    ...partners.map((row): Hit => ({
      type: 'partner',
      title: row.name,
      under: row.code,
      href: `/partners/${encodeURIComponent(row.code)}`,
      exact: false
    }))
  ];
}

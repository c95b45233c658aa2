import { expiryOf, stateOf } from '../kernel/db/what-counts.ts';
import { readWishes } from '../catalogue/wishes.ts';
import {
  propose,
  type ChoiceRule,
  type Considered,
  type Offered,
  type ProposedLine,
  type WantedLine
} from '../../core/shipping/propose.ts';
import type { CustomerWishes } from '../../core/catalogue/wishes.ts';
import { groupBy } from '../../core/group-by.ts';
import { totalOf } from '../../core/quantity/quantity.ts';
import { numberKey } from '../../core/numbers/number.ts';
import { sayLimit } from '../../core/quality/spec.ts';
import { limitsFor, readSpecs } from '../catalogue/specs.ts';
import { notFound } from '../kernel/problem.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { readOrder } from '../orders/read-orders.ts';
import { readVerdicts } from '../catalogue/verdicts.ts';

export interface Choice extends Considered {
  product: string;
  kind: 'lot' | 'serial' | 'bulk';
  number: string;
  lot: string | null;
  onHand: string;
  expires: string | null;
  place: string;
  verdict: Offered['verdict'];
  /** What does not conform or is missing. */ judged: string[];
  promises: {
    order: string;
    partner: string | null;
    quantity: string;
    until: string | null;
    who: string;
  }[];
}
export interface ProposalAnswer {
  rule: ChoiceRule;
  wishes: Record<string, CustomerWishes>;
  limits: Record<string, string[]>;
  lines: (ProposedLine & { product: string })[];
  choices: Choice[];
}

interface OfferRow {
  id: number;
  product: string;
  kind: Choice['kind'];
  number: string;
  lot: string | null;
  state: Offered['state'];
  expires: string | null;
  since: string;
  onHand: string;
  life: number | null;
  promised: string;
  place: string;
}

/**
 * Everything of these products that lies anywhere, with what of it is promised to other orders;
 * verdicts are still to be given.
 */
export async function readOffers(
  db: Db,
  products: readonly string[],
  orderId: number | null,
  day: string
): Promise<(OfferRow & { verdict: Offered['verdict'] })[]> {
  const codes = products.map(numberKey);
  // What a product says of all its lots, and the few promises, are read beside: a hundred thousand
  // rows need not repeat them.
  const [rows, ofProducts, promises] = await Promise.all([
    db<
      {
        id: number;
        product: number;
        kind: Choice['kind'];
        number: string | null;
        lot: string | null;
        state: Offered['state'];
        expires: string | null;
        since: string;
        onHand: string;
        place: string;
      }[]
    >`
      SELECT m.id, m.product_id AS product, m.kind, m.number, l.number AS lot,
        ${stateOf(db)} AS state,
        ${expiryOf(db)} AS expires, e.happened_at::date AS since,
        s.quantity AS "onHand", c.code AS place
      FROM mark m
        JOIN stock s ON s.mark_id = m.id AND s.quantity > 0
        JOIN place c ON c.id = s.place_id AND c.kind NOT IN ('quarantine', 'transit')
        JOIN event e ON e.id = m.birth_event
        LEFT JOIN mark l ON l.id = m.lot_id
      WHERE m.product_id = ANY(ARRAY(SELECT id FROM product WHERE upper(code) = ANY(${codes})))
    `,
    db<{ id: number; code: string; life: number | null }[]>`
      SELECT p.id, p.code,
        coalesce(
          p.shelf_life_days,
            (
              SELECT (v.body ->> 'shelfLifeDays')::int
              FROM marking_plan_version v
              WHERE v.plan_id = p.plan_id
              ORDER BY v.version DESC
              LIMIT 1
            )
        ) AS life
      FROM product p
      WHERE upper(p.code) = ANY(${codes})
    `,
    db<{ mark: number; promised: string }[]>`
      SELECT r.mark_id AS mark, sum(r.quantity) AS promised
      FROM reservation r
        JOIN trade_order o ON o.id = r.order_id
        JOIN mark m ON m.id = r.mark_id
      WHERE m.product_id = ANY(ARRAY(SELECT id FROM product WHERE upper(code) = ANY(${codes})))
        AND o.closed_at IS NULL
        AND coalesce(r.until, 'infinity') >= ${day}
        AND r.order_id IS DISTINCT FROM ${orderId}
      GROUP BY r.mark_id
    `
  ]);
  const productOf = new Map(ofProducts.map((row) => [row.id, row])),
    promisedOf = new Map(promises.map((row) => [row.mark, trimZeros(row.promised)]));
  // One row for each place it lies at: put together here, as nearly all lie at one.
  const offers = new Map<number, OfferRow & { verdict: Offered['verdict'] }>();
  for (const row of rows) {
    const before = offers.get(row.id),
      onHand = trimZeros(row.onHand);
    if (!before) {
      const product = productOf.get(row.product)!;
      offers.set(row.id, {
        id: row.id,
        product: product.code,
        kind: row.kind,
        number: row.number ?? product.code,
        lot: row.lot,
        state: row.state,
        expires: row.expires,
        since: row.since,
        onHand,
        place: row.place,
        life: product.life,
        promised: promisedOf.size === 0 ? '0' : (promisedOf.get(row.id) ?? '0'),
        verdict: null
      });
      continue;
    }
    before.onHand = totalOf([before.onHand, onHand]);
    if (row.place < before.place) before.place = row.place;
  }
  return [...offers.values()];
}

/**
 * What should go on an order, line by line, and every lot with why it is taken or left.
 * @param named lots or serials that must be taken, by line
 * @param day the day it is to leave
 * @throws Problem 404
 */
export async function readProposal(
  db: Db,
  number: string,
  rule: ChoiceRule,
  named: Readonly<Record<number, string>>,
  day: string
): Promise<ProposalAnswer> {
  const order = (await readOrder(db, 'sales', number)) ?? notFound('order', number);
  const [row] = await db<
    { id: number }[]
  >`SELECT id FROM trade_order WHERE kind = 'sales' AND upper(number) = ${numberKey(number)}`;
  const products = [
    ...new Set(order.lines.filter((line) => line.marking !== 'none').map((line) => line.product))
  ];
  const [offers, specs, wishes, promises] = await Promise.all([
    readOffers(db, products, row!.id, day),
    readSpecs(db, products),
    readWishes(db, order.partner, products),
    readPromises(db, products, day)
  ]);
  const limits = new Map(products.map((code) => [code, limitsFor(specs, code, order.partner)]));
  const verdicts = await readVerdicts(
    db,
    offers.map((offer) => ({ id: offer.id, spec: limits.get(offer.product) ?? null }))
  );
  const byProduct = groupBy(offers, (offer) => offer.product),
    promisedOf = groupBy(promises, (promise) => promise.mark);
  const answers = products.map((code) => {
    const lines: WantedLine[] = order.lines
      .filter((line) => line.product === code && line.left !== '0')
      .map((line) => ({
        line: line.line,
        wanted: line.left,
        ...(named[line.line] ? { named: named[line.line]! } : {})
      }));
    const judged = byProduct.get(code) ?? [];
    const here: Offered[] =
      verdicts.size === 0
        ? judged
        : judged.map((offer) => ({ ...offer, verdict: verdicts.get(offer.id)?.verdict ?? null }));
    return { code, ...propose(lines, here, rule, wishes.get(code)!, day) };
  });
  const offerOf = new Map(offers.map((offer) => [offer.id, offer]));
  return {
    rule,
    wishes: Object.fromEntries(wishes),
    limits: Object.fromEntries(
      [...limits].map(([code, spec]) => [
        code,
        (spec?.limits ?? []).map((limit) => `${limit.name} ${sayLimit(limit)}`)
      ])
    ),
    lines: answers.flatMap(({ code, lines }) => lines.map((line) => ({ ...line, product: code }))),
    choices: answers.flatMap(({ considered }) =>
      considered.map((one): Choice => {
        const offer = offerOf.get(one.id)!,
          judged = verdicts.get(one.id);
        return {
          ...one,
          product: offer.product,
          kind: offer.kind,
          number: offer.number,
          lot: offer.lot,
          onHand: offer.onHand,
          expires: offer.expires,
          place: offer.place,
          verdict: judged?.verdict ?? null,
          judged: (judged?.judged ?? [])
            .filter((limit) => limit.verdict !== 'conforms')
            .map((limit) => limit.why),
          promises: (promisedOf.get(one.id) ?? []).map(({ mark: _, ...promise }) => promise)
        };
      })
    )
  };
}

interface PromiseRow {
  mark: number;
  order: string;
  partner: string | null;
  quantity: string;
  until: string | null;
  who: string;
}

/** Promises that still count, of marks of these products. */
export async function readPromises(
  db: Db,
  products: readonly string[],
  day: string
): Promise<PromiseRow[]> {
  const rows = await db<PromiseRow[]>`
    SELECT r.mark_id AS mark, o.number AS order, t.name AS partner, r.quantity, r.until,
      w.name AS who
    FROM reservation r
      JOIN trade_order o ON o.id = r.order_id
      JOIN mark m ON m.id = r.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN partner t ON t.id = o.partner_id
      JOIN person w ON w.id = r.promised_by
    WHERE upper(p.code) = ANY(${products.map(numberKey)})
      AND o.closed_at IS NULL
      AND coalesce(r.until, 'infinity') >= ${day}
    ORDER BY r.promised_at
  `;
  return rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}

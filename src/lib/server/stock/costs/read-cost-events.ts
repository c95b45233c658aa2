import type { CostEvent, CostFitting, CostTie } from '../../../core/stock/costs/cost-event.ts';
import { quantity, type Quantity } from '../../../core/quantity/quantity.ts';
import { groupBy } from '../../../core/group-by.ts';
import type { Tx } from '../../kernel/db/client.ts';
import { idList } from '../../kernel/db/id-list.ts';
import { heldUntil, stands, toldCost } from '../../kernel/db/what-counts.ts';
import { inForce } from '../../catalogue/bills.ts';

/** Which events are read, and how. */
export interface CostScope {
  /** Ids of events, the earliest first. */
  events: readonly number[];
  /** Only what concerns these marks; all marks where it is left out. */
  marks?: readonly number[];
  /**
   * As they hold now and not as they were booked: without what was taken back, and at the costs told
   * until this event.
   */
  toldUntil?: number;
}

interface TieRow {
  event: number;
  tie: number;
  kind: string;
  shared: boolean;
}
interface OutputRow {
  tie: number;
  mark: number;
  quantity: string;
  share: string | null;
  added: string | null;
  product: number;
  weight: string | null;
}

/** What events say of costs, in their order. */
export async function readCostEvents(tx: Tx, scope: CostScope): Promise<CostEvent[]> {
  if (scope.events.length === 0) return [];
  const ids: ReturnType<Tx> = tx`${idList(scope.events)}::text::bigint[]`;
  const [heads, nets, ties, inputs, outputs, fitted, told] = await Promise.all([
    tx<{ id: number; kind: string }[]>`
      SELECT e.id, e.kind
      FROM event e
      WHERE e.id = ANY(${ids})
      ORDER BY e.id
    `,
    readNets(tx, scope, ids),
    readTies(tx, scope, ids),
    tx<{ tie: number; mark: number; quantity: string }[]>`
      SELECT i.transformation_id AS tie, i.mark_id AS mark, i.quantity
      FROM transformation t
        JOIN transformation_input i ON i.transformation_id = t.id
      WHERE t.event_id = ANY(${ids})
    `,
    readOutputs(tx, ids),
    readFittings(tx, scope, ids),
    tx<{ event: number; mark: number; cost: string }[]>`
      SELECT c.event_id AS event, c.mark_id AS mark, c.unit_cost::text AS cost
      FROM cost_told c
      WHERE c.event_id = ANY(${ids})
        AND c.of_event IS NULL
        AND ${ofMarks(tx, scope, tx`c.mark_id`)}
    `
  ]);
  const netsOf = groupBy(nets, (row) => row.event);
  const tiesOf = groupBy(ties, (row) => row.event);
  const inputsOf = groupBy(inputs, (row) => row.tie);
  const outputsOf = groupBy(outputs, (row) => row.tie);
  const fittedOf = groupBy(fitted, (row) => row.event);
  const toldOf = groupBy(told, (row) => row.event);
  return heads.map(({ id, kind }) => {
    const fittings = fittedOf.get(id) ?? [];
    return {
      ...{ id, kind },
      net: amounts(netsOf.get(id), (row) => row.net),
      costs: amounts(netsOf.get(id), (row) => row.cost),
      ties: (tiesOf.get(id) ?? []).map((tie) => asTie(tie, inputsOf, outputsOf)),
      fittings: fittings.filter((row) => row.put).map(asFitting),
      removals: fittings.filter((row) => !row.put).map(asFitting),
      told: amounts(toldOf.get(id), (row) => row.cost)
    };
  });
}

function amounts<Row extends { mark: number }>(
  rows: readonly Row[] | undefined,
  amountOf: (row: Row) => string | null
): ReadonlyMap<number, Quantity> {
  const of = new Map<number, Quantity>();
  for (const row of rows ?? []) {
    const amount = amountOf(row);
    if (amount !== null) of.set(row.mark, quantity(amount));
  }
  return of;
}

const asFitting = (row: { part: number; host: number; quantity: string }): CostFitting => ({
  part: row.part,
  host: row.host,
  quantity: quantity(row.quantity)
});

function asTie(
  { tie, kind, shared }: TieRow,
  inputsOf: ReadonlyMap<number, { mark: number; quantity: string }[]>,
  outputsOf: ReadonlyMap<number, OutputRow[]>
): CostTie {
  const outputs = outputsOf.get(tie) ?? [];
  const alike = new Set(outputs.map((row) => row.product)).size <= 1;
  return {
    shared,
    apart: kind === 'teardown',
    inputs: (inputsOf.get(tie) ?? []).map((row) => ({
      mark: row.mark,
      quantity: quantity(row.quantity)
    })),
    outputs: outputs.map((row) => {
      const amount = quantity(row.quantity);
      const weighed = row.weight === null ? null : amount.times(row.weight);
      return {
        mark: row.mark,
        quantity: amount,
        share: row.share === null ? null : quantity(row.share),
        added: row.added === null ? null : quantity(row.added),
        weight: alike ? amount : weighed
      };
    })
  };
}

/** Whether a mark is one of those asked for. */
const ofMarks = (tx: Tx, { marks }: CostScope, mark: ReturnType<Tx>) =>
  marks ? tx`${mark} = ANY(${idList(marks)}::text::bigint[])` : tx`true`;

/**
 * What each event moved of each mark, and the cost of one of what came in by it: as told last where
 * it was corrected, and null where a part of it has none.
 */
const readNets = (tx: Tx, scope: CostScope, ids: ReturnType<Tx>) =>
  tx<{ event: number; mark: number; net: string; cost: string | null }[]>`
    WITH moved AS (
      SELECT v.event_id, v.mark_id, sum(v.quantity) AS net,
        CASE WHEN bool_and(v.unit_cost IS NOT NULL) FILTER (WHERE v.quantity > 0) THEN
          sum(v.quantity * v.unit_cost) FILTER (WHERE v.quantity > 0)
          / sum(v.quantity) FILTER (WHERE v.quantity > 0)
        END AS cost
      FROM movement v
        JOIN event e ON e.id = v.event_id AND e.kind NOT IN ('move', 'put away', 'transfer')
      WHERE v.event_id = ANY(${ids})
        AND ${ofMarks(tx, scope, tx`v.mark_id`)}
        AND ${scope.toldUntil === undefined ? tx`true` : heldUntil(tx, scope.toldUntil)}
      GROUP BY v.event_id, v.mark_id
    )
    SELECT m.event_id AS event, m.mark_id AS mark, m.net::text,
      ${
        scope.toldUntil === undefined
          ? tx`m.cost`
          : tx`
            coalesce(${toldCost(tx, tx`m.mark_id`, tx`m.event_id`, scope.toldUntil)}, m.cost)
          `
      }::text AS cost
    FROM moved m
  `;

/**
 * Ties of an event; as they hold, without those taken back, and what a reversal of a part left
 * standing anew counts as the event's own.
 */
const readTies = (tx: Tx, scope: CostScope, ids: ReturnType<Tx>) =>
  scope.toldUntil === undefined
    ? tx<TieRow[]>`
      SELECT t.event_id AS event, t.id AS tie, e.kind, t.shared
      FROM transformation t
        JOIN event e ON e.id = t.event_id AND e.kind <> 'reversal'
      WHERE t.event_id = ANY(${ids})
      ORDER BY t.id
    `
    : tx<TieRow[]>`
      SELECT o.id AS event, t.id AS tie, o.kind, t.shared
      FROM transformation t
        JOIN event e ON e.id = t.event_id
        JOIN event o ON o.id = coalesce(e.reverses_id, e.id)
      WHERE t.event_id = ANY(${ids})
        AND ${stands(tx, tx`t.id`)}
        AND (
          EXISTS (
            SELECT
            FROM transformation_input i
            WHERE i.transformation_id = t.id AND ${ofMarks(tx, scope, tx`i.mark_id`)}
          )
          OR EXISTS (
            SELECT
            FROM transformation_output u
            WHERE u.transformation_id = t.id AND ${ofMarks(tx, scope, tx`u.mark_id`)}
          )
        )
      ORDER BY t.id
    `;

/** What was made, with what its bill of the day adds to the parts, and what one weighs. */
const readOutputs = (tx: Tx, ids: ReturnType<Tx>) =>
  tx<OutputRow[]>`
    SELECT o.transformation_id AS tie, o.mark_id AS mark, o.quantity, o.share::text,
      CASE WHEN e.kind = 'build' AND NOT t.shared THEN b.added_cost::text END AS added,
      p.id AS product, p.net_weight_kg::text AS weight
    FROM transformation t
      JOIN event booked ON booked.id = t.event_id
      JOIN event e ON e.id = coalesce(booked.reverses_id, booked.id)
      JOIN transformation_output o ON o.transformation_id = t.id
      JOIN mark m ON m.id = o.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN trade_order w ON w.id = e.order_id
      LEFT JOIN bill k ON k.id = w.bill_id AND k.product_id = p.id
      LEFT JOIN bill b ON b.id = coalesce(
        k.id, ${inForce(tx, tx`p.id`, tx`e.happened_at::date`)}
      )
    WHERE t.event_id = ANY(${ids})
  `;

const readFittings = (tx: Tx, scope: CostScope, ids: ReturnType<Tx>) =>
  tx<{ event: number; part: number; host: number; quantity: string; put: boolean }[]>`
    SELECT f.from_event AS event, f.component_id AS part, f.host_id AS host, f.quantity, true AS put
    FROM fitting f
    WHERE f.from_event = ANY(${ids})
      AND (
        ${ofMarks(tx, scope, tx`f.component_id`)} OR ${ofMarks(tx, scope, tx`f.host_id`)}
      )
    UNION ALL
    SELECT r.event_id, r.component_id, r.host_id, r.quantity, false
    FROM removal r
    WHERE r.event_id = ANY(${ids})
      AND (
        ${ofMarks(tx, scope, tx`r.component_id`)} OR ${ofMarks(tx, scope, tx`r.host_id`)}
      )
  `;

import type { Direction } from '../../core/trace/graph.ts';
import { graphOf } from '../../core/trace/packed/packed-drawing.ts';
import type { PackedEnds, PackedFigures } from '../../core/trace/packed/packed-figures.ts';
import { levelsOf, type PackedCut } from '../../core/trace/packed/packed-walk.ts';
import type { TraceFindings } from '../../core/trace/trace.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { idList } from '../kernel/db/id-list.ts';
import type { TraceEngine } from './engine/engine.ts';
import { asMarkRecord, type MarkRecordRow } from '../ledger/mark-record.ts';
import { type MarkRecord } from '../../core/ledger/mark-record.ts';
import type { TraceCut, TraceDrawing, TraceFigures } from '../../core/trace/trace-answer.ts';

interface EventRow {
  id: number;
  kind: string;
  document: string;
  partner: string | null;
  at: string;
  by: string;
}

/** One snapshot for the index and for what is read beside it. */
const inSnapshot = <T>(sql: Sql, work: (tx: Tx) => Promise<T>): Promise<T> =>
  sql.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', work) as Promise<T>;

const MICROS_1970_TO_2000 = 946_684_800_000_000;

/**
 * The cut in the index's terms; products by id. They are looked up outside of the asker's snapshot:
 * a product never goes.
 */
async function packedCut(
  sql: Sql,
  { until, withoutProducts, withoutKinds }: TraceCut
): Promise<PackedCut> {
  const products = withoutProducts?.length
    ? (
        await sql<
          { id: number }[]
        >`SELECT id FROM product WHERE upper(code) = ANY(${withoutProducts.map(numberKey)})`
      ).map((row) => row.id)
    : null;
  return {
    ...(until ? { until: until.getTime() * 1000 - MICROS_1970_TO_2000 } : {}),
    ...(products ? { withoutProducts: products } : {}),
    ...(withoutKinds ? { withoutKinds } : {})
  };
}

export async function marksByIndex(
  sql: Sql,
  engine: TraceEngine,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut = {}
): Promise<number[]> {
  const within = await packedCut(sql, cut);
  return await inSnapshot(sql, async (tx) => {
    const { reply } = await engine.ask(tx, {
      about: 'trace',
      roots: [...roots],
      direction,
      cut: within,
      want: 'marks'
    });
    return [...(await reply).walked.marks];
  });
}

export async function figuresByIndex(
  sql: Sql,
  engine: TraceEngine,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut
): Promise<TraceFigures | null> {
  const within = await packedCut(sql, cut);
  return await inSnapshot(sql, async (tx) => {
    const { walked, figures } = await (
      await engine.ask(tx, {
        about: 'trace',
        roots: [...roots],
        direction,
        cut: within,
        want: 'figures'
      })
    ).reply;
    if (walked.roots === 0) return null;
    const events = await readEvents(tx, eventsOfEnds(figures!));
    return {
      roots: walked.roots,
      marks: walked.marks,
      levels: levelsOf(walked),
      product: walked.products,
      content: figures!.content,
      contents: figures!.contents,
      ends: endsOf(engine, figures!, events),
      balances: figures!.balances
    };
  });
}

export async function drawByIndex(
  sql: Sql,
  engine: TraceEngine,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut
): Promise<TraceDrawing | null> {
  const within = await packedCut(sql, cut);
  return await inSnapshot(sql, async (tx) => {
    const { walked, figures, graph, lines } = await (
      await engine.ask(tx, {
        about: 'trace',
        roots: [...roots],
        direction,
        cut: within,
        want: 'drawing'
      })
    ).reply;
    if (walked.roots === 0) return null;
    const [rows, events] = await Promise.all([
      readMarks(tx, walked.marks, cut.until),
      readEvents(tx, lines!.events)
    ]);
    const { onHand, amounts, content, contents, balances } = figures!;
    const levels = levelsOf(walked),
      placeOf = new Map<number, number>();
    walked.marks.forEach((id, place) => placeOf.set(id, place));
    const recordOf = new Map<number, MarkRecord>();
    const marks = rows
      .map((row) => {
        const place = placeOf.get(row.id)!;
        const record = asMarkRecord({ ...row, on_hand: amounts[onHand[place]!]! });
        recordOf.set(row.id, record);
        return {
          ...record,
          level: levels[place]!,
          ...(content ? { content: contents[content[place]!]! } : {})
        };
      })
      .sort((a, b) => a.level - b.level || a.id - b.id);
    const { mark: _, causes: __, ...balance } = balances[0]!;
    return {
      root: recordOf.get(walked.marks[0]!)!,
      roots: [...walked.marks.subarray(0, walked.roots)].map((root) => recordOf.get(root)!),
      direction,
      marks,
      graph: graphOf(graph!),
      events: [...lines!.events].map((id, n) => ({
        ...events.get(id)!,
        lines: Array.from(
          { length: lines!.lineStart[n + 1]! - lines!.lineStart[n]! },
          (_line, m) => {
            const at = lines!.lineStart[n]! + m,
              place = lines!.place[at]!;
            return {
              mark: lines!.mark[at]!,
              place: place === 0 ? null : engine.placeCode(place),
              quantity: lines!.amounts[lines!.amount[at]!]!
            };
          }
        )
      })),
      ends: endsOf(engine, figures!, events),
      balance,
      balances
    };
  });
}

/**
 * The API's answer as JSON text: the readers write links and lines, the marks' numbers come from
 * the database meanwhile.
 */
export async function jsonByIndex(
  sql: Sql,
  engine: TraceEngine,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut
): Promise<Uint8Array[] | null> {
  const within = await packedCut(sql, cut);
  return await inSnapshot(sql, async (tx) => {
    const asked = await engine.ask(tx, {
      about: 'trace',
      roots: [...roots],
      direction,
      cut: within,
      want: 'json'
    });
    const { walked, figures } = await asked.reply;
    if (walked.roots === 0) return null;
    const reading = readMarks(tx, walked.marks, cut.until);
    reading.catch(() => {});
    const { links, lines, start, events: eventIds } = await asked.json!;
    const [rows, events] = await Promise.all([reading, readEvents(tx, eventIds)]);
    const { onHand, amounts, content, contents, balances } = figures!;
    const levels = levelsOf(walked),
      rowOf = new Map(rows.map((row) => [row.id, row]));
    const encoder = new TextEncoder(),
      pieces: Uint8Array[] = [];
    const recordOf = (place: number) =>
      recordJson(rowOf.get(walked.marks[place]!)!, amounts[onHand[place]!]!);
    const { mark: _, causes: __, ...balance } = balances[0]!;
    const rootTexts = Array.from({ length: walked.roots }, (_root, place) => `${recordOf(place)}}`);
    let text = `{"root":${rootTexts[0]!},"roots":[${rootTexts.join(',')}],"direction":"${direction}","balance":${JSON.stringify(balance)},"balances":${JSON.stringify(balances)},"ends":${JSON.stringify(endsOf(engine, figures!, events))},"marks":[`;
    // Marks come level by level, within one by their ids; the first by id need not be the first root.
    let first = true;
    for (let level = 0; level + 1 < walked.levelStarts.length; level++) {
      const from = walked.levelStarts[level]!,
        to = walked.levelStarts[level + 1]!;
      const places = Uint32Array.from({ length: to - from }, (_place, n) => from + n).sort(
        (a, b) => walked.marks[a]! - walked.marks[b]!
      );
      for (const place of places) {
        text += `${first ? '' : ','}${recordOf(place)},"level":${levels[place]!}${content ? `,"content":"${contents[content[place]!]!}"` : ''}}`;
        first = false;
      }
    }
    pieces.push(encoder.encode(`${text}],"links":`), links, encoder.encode(',"events":['));
    eventIds.forEach((id, n) => {
      const event = JSON.stringify(events.get(id)!);
      pieces.push(
        encoder.encode(`${n > 0 ? ',' : ''}${event.slice(0, -1)},"lines":`),
        lines.subarray(start[n], start[n + 1]),
        CLOSE
      );
    });
    pieces.push(encoder.encode(']}'));
    return pieces;
  });
}

const CLOSE = new TextEncoder().encode('}');

/** A mark's record without its last bracket. */
function recordJson(row: TracedMarkRow, onHand: string): string {
  return `{"id":${row.id},"product":${JSON.stringify(row.product)},"kind":"${row.kind}","number":${row.number === null ? 'null' : JSON.stringify(row.number)},"state":"${row.state}","onHand":"${onHand}"${row.lot === null ? '' : `,"lot":${JSON.stringify(row.lot)}`}${row.supplier_number === null ? '' : `,"supplierNumber":${JSON.stringify(row.supplier_number)}`}${row.expires_on === null ? '' : `,"expires":"${row.expires_on}"`}`;
}

type TracedMarkRow = Omit<MarkRecordRow, 'on_hand'>;

/** The marks' own data, state as it was at an instant where one is given. */
async function readMarks(
  tx: Tx,
  ids: Uint32Array,
  until: Date | undefined
): Promise<TracedMarkRow[]> {
  return [
    ...(await tx<TracedMarkRow[]>`
      SELECT m.id, p.code AS product, m.kind, m.number, l.number AS lot, m.supplier_number,
        m.expires_on, ${
          until
            ? tx`
          coalesce(
            (
              SELECT c.old_value
              FROM mark_change c
                JOIN event e ON e.id = c.event_id
              WHERE c.mark_id = m.id AND c.field = 'state' AND e.happened_at > ${until}
              ORDER BY c.id
              LIMIT 1
            ),
              m.state
          ) AS state
        `
            : tx`m.state`
        }
      FROM mark m
        JOIN product p ON p.id = m.product_id
        LEFT JOIN mark l ON l.id = m.lot_id
      WHERE m.id = ANY(${idList(ids)}::text::bigint[])
    `)
  ];
}

async function readEvents(tx: Tx, ids: ArrayLike<number>): Promise<Map<number, EventRow>> {
  if (ids.length === 0) return new Map();
  const rows = await tx<(Omit<EventRow, 'at'> & { at: Date })[]>`
    SELECT e.id, e.kind, e.document, t.code AS partner, e.happened_at AS at, w.name AS by
    FROM event e
      JOIN person w ON w.id = e.booked_by
      LEFT JOIN partner t ON t.id = e.partner_id
    WHERE e.id = ANY(${idList(ids)}::text::bigint[])
  `;
  return new Map(rows.map((row) => [row.id, { ...row, at: row.at.toISOString() }]));
}

function eventsOfEnds({ ends }: PackedFigures): number[] {
  const ids = new Set<number>();
  for (const { event } of [ends.customers, ends.scrapped, ends.suppliers])
    for (let n = 0; n < event.length; n++) ids.add(event[n]!);
  return [...ids];
}

function endsOf(
  engine: TraceEngine,
  { ends, amounts }: PackedFigures,
  events: ReadonlyMap<number, EventRow>
): TraceFindings['ends'] {
  const each = <T>(
    { mark, event, place, amount }: PackedEnds,
    make: (mark: number, event: EventRow | undefined, place: number, quantity: string) => T
  ): T[] => {
    const list: T[] = new Array<T>(mark.length);
    for (let n = 0; n < mark.length; n++)
      list[n] = make(mark[n]!, events.get(event[n]!), place[n]!, amounts[amount[n]!]!);
    return list;
  };
  const partner = (
    mark: number,
    event: EventRow | undefined,
    _place: number,
    quantity: string
  ) => ({
    partner: event!.partner ?? '',
    document: event!.document,
    at: event!.at,
    mark,
    quantity
  });
  return {
    customers: each(ends.customers, partner),
    suppliers: each(ends.suppliers, partner),
    onHand: each(ends.onHand, (mark, _event, place, quantity) => ({
      mark,
      place: engine.placeCode(place),
      quantity
    })),
    scrapped: each(ends.scrapped, (mark, event, place, quantity) => ({
      mark,
      place: engine.placeCode(place),
      quantity,
      document: event!.document,
      at: event!.at
    }))
  };
}

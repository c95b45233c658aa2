import type { Direction } from '../../core/trace/graph.ts';
import { graphOf } from '../../core/trace/packed/packed-drawing.ts';
import type { PackedLines } from '../../core/trace/packed/packed-lines.ts';
import type { PackedEnds } from '../../core/trace/packed/packed-ends.ts';
import type { PackedFigures } from '../../core/trace/packed/packed-figures.ts';
import { levelsOf } from '../../core/trace/packed/levels.ts';
import type { PackedCut } from '../../core/trace/packed/reached.ts';
import type { PartnerEnd, TraceFindings } from '../../core/trace/trace.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { idList } from '../kernel/db/id-list.ts';
import { inSnapshot } from '../kernel/db/in-snapshot.ts';
import type { TraceEngine } from './engine/engine.ts';
import type { TraceQuestion } from './engine/messages.ts';
import { mapInStretches } from '../kernel/let-others-in.ts';
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

const MICROS_1970_TO_2000 = 946_684_800_000_000;

/** The cut in the index's terms; products by id. */
async function packedCut(
  sql: Sql,
  { until, withoutProducts, withoutKinds, from, clocks }: TraceCut
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
    ...(withoutKinds ? { withoutKinds } : {}),
    ...(from ? { from } : {}),
    ...(clocks ? { clocks } : {})
  };
}

/**
 * A question in the index's terms. It is put before a snapshot is taken: what it looks up are
 * products, which never go.
 */
async function questionOf(
  sql: Sql,
  want: TraceQuestion['want'],
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut
): Promise<TraceQuestion> {
  const within = await packedCut(sql, cut);
  return { about: 'trace', roots: [...roots], direction, cut: within, want };
}

/** The marks alone: they are the index's, so no snapshot is held for them. */
export async function marksByIndex(
  sql: Sql,
  engine: TraceEngine,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut = {}
): Promise<number[]> {
  const question = await questionOf(sql, 'marks', roots, direction, cut);
  const { reply } = await engine.askNow(sql, question);
  return [...(await reply).walked.marks];
}

/**
 * The figures: the index's too. What is read beside them is of events, which never change, so that
 * no snapshot is held for them either.
 */
export async function figuresByIndex(
  sql: Sql,
  engine: TraceEngine,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut
): Promise<TraceFigures | null> {
  const question = await questionOf(sql, 'figures', roots, direction, cut);
  const { reply } = await engine.askNow(sql, question);
  const { walked, cleared, figures } = await reply;
  if (walked.roots === 0) return null;
  const events = await readEvents(sql, eventsOfEnds(figures!));
  return {
    roots: walked.roots,
    marks: walked.marks,
    levels: levelsOf(walked),
    product: walked.products,
    content: figures!.content,
    contents: figures!.contents,
    ends: endsOf(engine, figures!, events),
    balances: figures!.balances,
    cleared: { marks: cleared, customers: customersCleared(figures!, events) },
    contentBy: figures!.contentBy
  };
}

export async function drawByIndex(
  sql: Sql,
  engine: TraceEngine,
  roots: readonly number[],
  direction: Direction,
  cut: TraceCut
): Promise<TraceDrawing | null> {
  const question = await questionOf(sql, 'drawing', roots, direction, cut);
  return await inSnapshot(sql, async (tx) => {
    const { reply } = await engine.ask(tx, question);
    const { walked, cleared, figures, graph, lines } = await reply;
    if (walked.roots === 0) return null;
    const [rows, events, clearedRows] = await Promise.all([
      readMarks(tx, walked.marks, cut.until),
      readEvents(tx, withCleared(lines!.events, figures!)),
      readCleared(tx, cleared, cut.until)
    ]);
    const { onHand, amounts, content, contents, balances } = figures!;
    const levels = levelsOf(walked),
      placeOf = new Map<number, number>();
    walked.marks.forEach((id, place) => placeOf.set(id, place));
    const recordOf = new Map<number, MarkRecord>();
    const reached = (row: TracedMarkRow): TraceDrawing['marks'][number] => {
      const place = placeOf.get(row.id)!;
      const record = asMarkRecord({ ...row, on_hand: amounts[onHand[place]!]! });
      recordOf.set(row.id, record);
      const told = content ? { content: contents[content[place]!]! } : {};
      return { ...record, level: levels[place]!, ...told };
    };
    const marks = await mapInStretches(rows, reached);
    marks.sort((a, b) => a.level - b.level || a.id - b.id);
    const { mark: _, causes: __, ...balance } = balances[0]!;
    return {
      root: recordOf.get(walked.marks[0]!)!,
      roots: [...walked.marks.subarray(0, walked.roots)].map((root) => recordOf.get(root)!),
      direction,
      marks,
      graph: graphOf(graph!),
      events: eventsSpelt(engine, lines!, events),
      ends: endsOf(engine, figures!, events),
      balance,
      balances,
      cleared: { marks: clearedRows, customers: customersCleared(figures!, events) },
      ...(figures!.contentBy ? { contentBy: figures!.contentBy } : {})
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
  const question = await questionOf(sql, 'json', roots, direction, cut);
  return await inSnapshot(sql, async (tx) => {
    const asked = await engine.ask(tx, question);
    const { walked, cleared, figures } = await asked.reply;
    if (walked.roots === 0) return null;
    const reading = readMarks(tx, walked.marks, cut.until);
    reading.catch(() => {});
    const { links, lines, start, events: eventIds } = await asked.json!;
    const [rows, events, clearedRows] = await Promise.all([
      reading,
      readEvents(tx, withCleared(eventIds, figures!)),
      readCleared(tx, cleared, cut.until)
    ]);
    const { onHand, amounts, content, contents, balances } = figures!;
    const levels = levelsOf(walked),
      rowOf = new Map(rows.map((row) => [row.id, row]));
    const encoder = new TextEncoder(),
      pieces: Uint8Array[] = [];
    const recordOf = (place: number) =>
      recordJson(rowOf.get(walked.marks[place]!)!, amounts[onHand[place]!]!);
    const { mark: _, causes: __, ...balance } = balances[0]!;
    const rootTexts = Array.from({ length: walked.roots }, (_root, place) => `${recordOf(place)}}`);
    let text = `{"root":${rootTexts[0]!},"roots":[${rootTexts.join(',')}],"direction":"${direction}","balance":${JSON.stringify(balance)},"balances":${JSON.stringify(balances)},"cleared":${JSON.stringify({ marks: clearedRows, customers: customersCleared(figures!, events) })},${figures!.contentBy ? `"contentBy":"${figures!.contentBy}",` : ''}"ends":${JSON.stringify(endsOf(engine, figures!, events))},"marks":[`;
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
      const front = eventFront(n, events.get(id)!);
      pieces.push(encoder.encode(front), lines.subarray(start[n], start[n + 1]), CLOSE);
    });
    pieces.push(encoder.encode(']}'));
    return pieces;
  });
}

const CLOSE = new TextEncoder().encode('}');

/** An event as JSON up to its lines. */
const eventFront = (n: number, event: EventRow): string =>
  `${n > 0 ? ',' : ''}${JSON.stringify(event).slice(0, -1)},"lines":`;

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

async function readEvents(db: Db, ids: ArrayLike<number>): Promise<Map<number, EventRow>> {
  if (ids.length === 0) return new Map();
  const rows = await db<(Omit<EventRow, 'at'> & { at: Date })[]>`
    SELECT e.id, e.kind, e.document, t.code AS partner, e.happened_at AS at, w.name AS by
    FROM event e
      JOIN person w ON w.id = e.booked_by
      LEFT JOIN partner t ON t.id = e.partner_id
    WHERE e.id = ANY(${idList(ids)}::text::bigint[])
  `;
  return new Map(rows.map((row) => [row.id, { ...row, at: row.at.toISOString() }]));
}

/** The events of a trace with their lines, as the rest of the core reads them. */
function eventsSpelt(
  engine: TraceEngine,
  lines: PackedLines,
  events: ReadonlyMap<number, EventRow>
): TraceDrawing['events'] {
  const line = (at: number) => {
    const place = lines.place[at]!;
    return {
      mark: lines.mark[at]!,
      place: place === 0 ? null : engine.placeCode(place),
      quantity: lines.amounts[lines.amount[at]!]!
    };
  };
  return Array.from(lines.events, (id, n) => {
    const from = lines.lineStart[n]!,
      count = lines.lineStart[n + 1]! - from;
    return { ...events.get(id)!, lines: Array.from({ length: count }, (_, m) => line(from + m)) };
  });
}

/** The events of a trace with those by which customers got what time cleared. */
const withCleared = (events: Uint32Array, { clearedCustomers }: PackedFigures): Uint32Array =>
  clearedCustomers.event.length === 0
    ? events
    : Uint32Array.from(new Set([...events, ...clearedCustomers.event]));

/** The marks that time cleared, with what is on hand of them. */
async function readCleared(
  tx: Tx,
  ids: Uint32Array,
  until: Date | undefined
): Promise<MarkRecord[]> {
  if (ids.length === 0) return [];
  const [rows, stock] = await Promise.all([
    readMarks(tx, ids, until),
    until
      ? tx<{ id: number; quantity: string }[]>`
        SELECT v.mark_id AS id, sum(v.quantity) AS quantity
        FROM movement v
          JOIN event e ON e.id = v.event_id
        WHERE v.mark_id = ANY(${idList(ids)}::text::bigint[]) AND e.happened_at <= ${until}
        GROUP BY v.mark_id
      `
      : tx<{ id: number; quantity: string }[]>`
        SELECT mark_id AS id, sum(quantity) AS quantity
        FROM stock
        WHERE mark_id = ANY(${idList(ids)}::text::bigint[]) AND quantity > 0
        GROUP BY mark_id
      `
  ]);
  const onHand = new Map(stock.map((row) => [row.id, row.quantity]));
  return rows
    .map((row) => asMarkRecord({ ...row, on_hand: onHand.get(row.id) ?? '0' }))
    .sort((a, b) => a.id - b.id);
}

function eventsOfEnds({ ends, clearedCustomers }: PackedFigures): number[] {
  const ids = new Set<number>();
  for (const { event } of [
    ends.customers,
    ends.scrapped,
    ends.suppliers,
    ends.origins,
    clearedCustomers
  ])
    for (let n = 0; n < event.length; n++) ids.add(event[n]!);
  return [...ids];
}

/** Each end in words, with the event that made it. */
function eachEnd<T>(
  { mark, event, place, amount }: PackedEnds,
  amounts: readonly string[],
  events: ReadonlyMap<number, EventRow>,
  make: (mark: number, event: EventRow | undefined, place: number, quantity: string) => T
): T[] {
  const list: T[] = new Array<T>(mark.length);
  for (let n = 0; n < mark.length; n++)
    list[n] = make(mark[n]!, events.get(event[n]!), place[n]!, amounts[amount[n]!]!);
  return list;
}

const asPartnerEnd = (
  mark: number,
  event: EventRow | undefined,
  _place: number,
  quantity: string
): PartnerEnd => ({
  event: event!.id,
  partner: event!.partner ?? '',
  document: event!.document,
  at: event!.at,
  mark,
  quantity
});

const customersCleared = (
  { clearedCustomers, amounts }: PackedFigures,
  events: ReadonlyMap<number, EventRow>
): PartnerEnd[] => eachEnd(clearedCustomers, amounts, events, asPartnerEnd);

function endsOf(
  engine: TraceEngine,
  { ends, amounts }: PackedFigures,
  events: ReadonlyMap<number, EventRow>
): TraceFindings['ends'] {
  const each = <T>(
    list: PackedEnds,
    make: (mark: number, event: EventRow | undefined, place: number, quantity: string) => T
  ): T[] => eachEnd(list, amounts, events, make);
  return {
    customers: each(ends.customers, asPartnerEnd),
    suppliers: each(ends.suppliers, asPartnerEnd),
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
    })),
    origins: each(ends.origins, (mark, event, place, quantity) => ({
      event: event!.id,
      kind: event!.kind,
      document: event!.document,
      at: event!.at,
      mark,
      place: engine.placeCode(place),
      quantity
    }))
  };
}

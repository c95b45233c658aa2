import type { EpcisEvent } from '../../core/exchange/write.ts';
import { Problem } from '../kernel/problem.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { inSnapshot } from '../kernel/db/in-snapshot.ts';
import { readLedgerEvents } from './ledger-events.ts';
import { canonical, marksOfEpcs } from './capture.ts';
import { OUR_CONTEXT, tellEvent } from './write-events.ts';

/**
 * The standard's query parameters that are answered; lists have `|` between. Source: EPCIS 2.0,
 * section 8.2.7.
 */
export interface EpcisQuery {
  MATCH_anyEPC?: string;
  MATCH_anyEPCClass?: string;
  EQ_bizStep?: string;
  eventType?: string;
  EQ_action?: string;
  GE_eventTime?: string;
  LT_eventTime?: string;
  EQ_readPoint?: string;
  EQ_bizLocation?: string;
  perPage: number;
  nextPageToken?: string;
}

/** Kinds of our events by business step; the other way round than they are written. */
const KINDS: Record<string, string[]> = {
  receiving: ['receive', 'return'],
  storing: ['put away', 'move'],
  transporting: ['transfer'],
  shipping: ['ship'],
  cycle_counting: ['count', 'gain', 'loss'],
  destroying: ['scrap'],
  holding: ['hold'],
  inspecting: ['release', 'reject', 'amendment'],
  assembling: ['build'],
  repackaging: ['repack'],
  disassembling: ['teardown'],
  commissioning: ['identify', 'opening'],
  packing: ['pack'],
  unpacking: ['unpack']
};
const list = (text: string | undefined): string[] | null =>
  text === undefined
    ? null
    : text
        .split('|')
        .map((one) => one.trim())
        .filter(Boolean);
interface Cursor {
  at: string;
  outside: boolean;
  id: number;
  skip: number;
}
const writeCursor = (cursor: Cursor): string =>
  Buffer.from(JSON.stringify([cursor.at, cursor.outside ? 1 : 0, cursor.id, cursor.skip])).toString(
    'base64url'
  );
function readCursor(text: string | undefined): Cursor | null {
  if (text === undefined) return null;
  try {
    const [at, outside, id, skip] = JSON.parse(Buffer.from(text, 'base64url').toString()) as [
      string,
      number,
      number,
      number
    ];
    if (!Number.isNaN(Date.parse(at)) && Number.isInteger(id) && Number.isInteger(skip))
      return { at, outside: outside === 1, id, skip };
  } catch {
    /* told below */
  }
  throw new Problem(400, 'The page token is none of ours', [
    {
      code: 'request.malformed',
      path: 'nextPageToken',
      message: 'Begin again without nextPageToken.'
    }
  ]);
}

/**
 * Events of our ledger and of other firms by the standard's parameters, in time order, a page at a
 * time. Those from outside are as they were sent and carry `earmark:outside`.
 * @returns the events of this page and the token of the next, null at the end
 */
export async function queryEvents(
  sql: Sql,
  query: EpcisQuery
): Promise<{ events: EpcisEvent[]; next: string | null }> {
  return inSnapshot(sql, async (tx) => {
    let cursor = readCursor(query.nextPageToken);
    const wanted =
      list(query.MATCH_anyEPC)?.concat(list(query.MATCH_anyEPCClass) ?? []) ??
      list(query.MATCH_anyEPCClass);
    const epcs = wanted?.map(canonical) ?? null;
    const marks = epcs === null ? null : [...(await marksOfEpcs(tx, epcs)).values()];
    const steps = list(query.EQ_bizStep)?.map((step) => step.replace(/^.*BizStep-/, '')) ?? null;
    const filter = {
      marks,
      epcs,
      steps,
      types: list(query.eventType),
      actions: list(query.EQ_action),
      points: list(query.EQ_readPoint),
      places: list(query.EQ_bizLocation),
      from: query.GE_eventTime ?? null,
      to: query.LT_eventTime ?? null
    };
    const fits = (event: EpcisEvent): boolean => {
      const text = epcs === null ? '' : JSON.stringify(event);
      return (
        (!filter.types || filter.types.includes(event.type)) &&
        (!filter.actions || filter.actions.includes(String(event.action))) &&
        (!filter.points ||
          filter.points.includes((event.readPoint as { id?: string } | undefined)?.id ?? '')) &&
        (!filter.places ||
          filter.places.includes((event.bizLocation as { id?: string } | undefined)?.id ?? '')) &&
        (epcs === null || epcs.some((epc) => text.includes(JSON.stringify(epc))))
      );
    };
    const page: EpcisEvent[] = [];
    for (;;) {
      const heads = await readHeads(tx, filter, cursor, query.perPage + 1);
      const own = heads.filter((head) => !head.outside).map((head) => head.id);
      const { events, marks: named } = await readLedgerEvents(tx, own);
      const ownOf = new Map(events.map((event) => [event.id, event]));
      const bodies = new Map(
        (
          await tx<{ id: number; body: EpcisEvent; captured_at: Date }[]>`
            SELECT id, body, captured_at
            FROM foreign_event
            WHERE id = ANY(${heads.filter((head) => head.outside).map((head) => head.id)})
          `
        ).map((row) => [row.id, row])
      );
      for (const head of heads) {
        const written = head.outside
          ? [
              {
                ...bodies.get(head.id)!.body,
                'earmark:outside': bodies.get(head.id)!.captured_at.toISOString()
              }
            ]
          : tellEvent(ownOf.get(head.id)!, named);
        const first =
          cursor && cursor.id === head.id && cursor.outside === head.outside ? cursor.skip : 0;
        // What is from outside was found by its identifiers already, in whatever form it was sent.
        const good = written.filter((event) => (head.outside ? true : fits(event)));
        for (let at = first; at < good.length; at++) {
          if (page.length >= query.perPage)
            return {
              events: page,
              next: writeCursor({ at: head.at, outside: head.outside, id: head.id, skip: at })
            };
          page.push(good[at]!);
        }
        cursor = { at: head.at, outside: head.outside, id: head.id, skip: Number.MAX_SAFE_INTEGER };
      }
      if (heads.length <= query.perPage) return { events: page, next: null };
    }
  });
}

/** A page of events as an EPCISQueryDocument, and the token of the next. */
export async function answerQuery(
  sql: Sql,
  query: EpcisQuery
): Promise<{ body: Uint8Array; next: string | null }> {
  const { events, next } = await queryEvents(sql, query);
  const document = {
    '@context': ['https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld', OUR_CONTEXT],
    type: 'EPCISQueryDocument',
    schemaVersion: '2.0',
    creationDate: new Date().toISOString(),
    epcisBody: {
      queryResults: { queryName: 'SimpleEventQuery', resultsBody: { eventList: events } }
    }
  };
  return { body: new TextEncoder().encode(JSON.stringify(document)), next };
}

interface Filter {
  marks: number[] | null;
  epcs: string[] | null;
  steps: string[] | null;
  types: string[] | null;
  actions: string[] | null;
  points: string[] | null;
  places: string[] | null;
  from: string | null;
  to: string | null;
}

/**
 * Which events come next, ours and from outside in one order; the one the cursor stands in is read
 * again.
 */
async function readHeads(
  db: Db,
  filter: Filter,
  cursor: Cursor | null,
  limit: number
): Promise<{ id: number; outside: boolean; at: string }[]> {
  const kinds = filter.steps?.flatMap((step) => KINDS[step] ?? []) ?? Object.values(KINDS).flat();
  const rows = await db<{ id: number; outside: boolean; at: string }[]>`
    SELECT id, outside, at
    FROM (
      SELECT e.id, false AS outside, e.happened_at AS time, to_json(e.happened_at) #>> '{}' AS at
      FROM event e
      WHERE e.kind = ANY(${filter.steps ? kinds : [...kinds, 'reversal']})
        AND (
          ${filter.marks === null}
            OR e.id IN (
              SELECT v.event_id
              FROM movement v
              WHERE v.mark_id = ANY(${filter.marks ?? []})
              UNION
              SELECT p.event_id
              FROM packing p
              WHERE p.mark_id = ANY(${filter.marks ?? []})
              UNION
              SELECT c.event_id
              FROM mark_change c
              WHERE c.mark_id = ANY(${filter.marks ?? []})
            )
        )
      UNION ALL
      SELECT f.id, true, f.event_time, to_json(f.event_time) #>> '{}'
      FROM foreign_event f
      WHERE (${filter.steps === null} OR f.biz_step = ANY(${filter.steps ?? []}))
        AND (${filter.types === null} OR f.type = ANY(${filter.types ?? []}))
        AND (${filter.actions === null} OR f.action = ANY(${filter.actions ?? []}))
        AND (${filter.points === null} OR f.read_point = ANY(${filter.points ?? []}))
        AND (${filter.places === null} OR f.biz_location = ANY(${filter.places ?? []}))
        AND (
          ${filter.epcs === null}
            OR EXISTS (
              SELECT
              FROM foreign_epc x
              WHERE x.foreign_id = f.id AND x.epc = ANY(${filter.epcs ?? []})
            )
        )
    ) both_kinds
    WHERE (${filter.from}::timestamptz IS NULL OR time >= ${filter.from}::timestamptz)
      AND (${filter.to}::timestamptz IS NULL OR time < ${filter.to}::timestamptz)
      AND (
        ${cursor === null}
          OR (time, outside, id) ${cursor?.skip === Number.MAX_SAFE_INTEGER ? db`>` : db`>=`} (
            ${cursor?.at ?? '2000-01-01'}::timestamptz, ${cursor?.outside ?? false},
              ${cursor?.id ?? 0}::bigint
          )
      )
    ORDER BY time, outside, id
    LIMIT ${limit}
  `;
  return [...rows];
}

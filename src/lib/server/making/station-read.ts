import {
  AGAIN_AFTER_SECONDS,
  decideStep,
  type ReadMode,
  type StationOnRoute,
  type StationState,
  type UnitPlace
} from '../../core/making/step.ts';
import { readTag, sgtin96 } from '../../core/gs1/epc-96.ts';
import { shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { newlySeen, readerAt, writeTag, type ReaderTag } from './tag-reader.ts';
import { requireRight } from '../kernel/rights.ts';
import { notFound, Problem } from '../kernel/problem.ts';

/**
 * Digits of the firm's GS1 company prefix, which a tag's code tells apart from the item;
 * EARMARK_GS1_PREFIX_DIGITS, 7 where not set.
 */
export const prefixDigits = (): number => {
  const digits = Number(process.env.EARMARK_GS1_PREFIX_DIGITS ?? 7);
  return Number.isInteger(digits) && digits >= 6 && digits <= 12 ? digits : 7;
};

/**
 * The code a unit's tag carries: the product's GTIN and the unit's own number among all that were
 * named.
 */
export const tagOf = (gtin: string, unit: number): string => sgtin96(gtin, unit, prefixDigits());

export interface ReadResult {
  epc: string;
  unit: string | null;
  is: 'moved' | 'looked' | 'refused' | 'again';
  says: string;
  state: StationState | null;
  station: string | null;
  /** Whether the tag's memory was written. */ written: boolean;
}

interface UnitRow {
  id: number;
  number: string;
  product: string;
  gtin: string | null;
  order: string;
  order_id: number;
  route_id: number | null;
  station_id: number | null;
  state: StationState | null;
  before: StationState | null;
  at: Date | null;
  action: string | null;
}

/**
 * Reads the tags at a station and moves their units on, each in a transaction of its own, so that
 * one broken tag stops no other.
 * @param tags what was read; the station's own reader is asked where not given
 * @param now when it was read
 * @throws Problem 403, 404 for an unknown station, 409 where its reader does not answer
 */
export async function readStation(
  sql: Sql,
  actor: Actor,
  code: string,
  mode: ReadMode,
  reason: string | null,
  tags: readonly ReaderTag[] | null,
  now: Date
): Promise<{ station: StationOnRoute; results: ReadResult[] }> {
  requireRight(actor, 'floor');
  const [station] = await sql<
    (StationOnRoute & { route_id: number })[]
  >`SELECT id, code, name, route_id FROM station WHERE upper(code) = upper(${code}) AND NOT gone`;
  if (!station) notFound('station', code);
  const reader = await readerAt(sql, station.code);
  if (tags === null && !reader.plugged)
    throw new Problem(409, 'The reader does not answer', [
      {
        code: 'device.silent',
        path: 'station',
        number: station.code,
        message: `The reader at ${station.name} does not answer. Check its plug; everything read before is kept.`
      }
    ]);
  const route = await sql<StationOnRoute[]>`
    SELECT id, code, name
    FROM station
    WHERE route_id = ${station.route_id} AND NOT gone
    ORDER BY position
  `;
  const results: ReadResult[] = [];
  for (const tag of tags ?? (await newlyThere(sql, station.code, reader.tags, mode, now))) {
    const result = await readOne(sql, actor, station, route, tag, mode, reason, now);
    if (result.is === 'moved')
      result.written = await writeTag(
        sql,
        station.code,
        tag.epc,
        `${result.station} ${result.state}`
      );
    results.push(result);
  }
  return { station: { id: station.id, code: station.code, name: station.name }, results };
}

/** Of what lies on a reader, what it has not read a moment ago. */
async function newlyThere(
  sql: Sql,
  station: string,
  tags: readonly ReaderTag[],
  mode: ReadMode,
  now: Date
): Promise<ReaderTag[]> {
  const epcs = tags.map(({ epc }) => epc);
  const seen = await newlySeen(sql, station, epcs, mode, now, AGAIN_AFTER_SECONDS);
  return tags.filter(({ epc }) => seen.has(epc));
}

async function readOne(
  sql: Sql,
  actor: Actor,
  station: StationOnRoute & { route_id: number },
  route: readonly StationOnRoute[],
  tag: ReaderTag,
  mode: ReadMode,
  reason: string | null,
  now: Date
): Promise<ReadResult> {
  const refused = (says: string, unit: string | null = null): ReadResult => ({
    epc: tag.epc,
    unit,
    is: 'refused',
    says,
    state: null,
    station: null,
    written: false
  });
  const reading = readTag(tag.epc);
  if (!reading.ok)
    return refused(
      `The tag ${shown(tag.epc)} cannot be used: ${reading.why}. Hold it nearer, or write it anew.`
    );
  if (reading.tag.is !== 'sgtin')
    return refused(`The tag is of a carton or pallet, SSCC ${reading.tag.sscc}, not of a unit.`);
  const { gtin, serial } = reading.tag;
  return (await sql.begin(async (tx): Promise<ReadResult> => {
    // One read after the other of the same unit: two readers cannot both move it on.
    await tx`SELECT pg_advisory_xact_lock(hashtextextended(${`unit ${serial}`}, 0))`;
    const unit = await unitOf(tx, serial);
    if (!unit || unit.gtin !== gtin)
      return refused(
        `The tag carries a foreign code: GTIN ${gtin}, serial ${serial}. It is no unit that was named here.`
      );
    if (unit.route_id !== station.route_id)
      return refused(
        `${unit.product} ${unit.number} does not come through this route. Set its product’s route in Setup.`,
        unit.number
      );
    if (
      mode === 'step' &&
      unit.action === 'step' &&
      unit.at !== null &&
      now.getTime() - unit.at.getTime() < AGAIN_AFTER_SECONDS * 1000
    ) {
      return {
        epc: tag.epc,
        unit: unit.number,
        is: 'again',
        says: `${unit.number} was read a moment ago; the same tag is read again after ${AGAIN_AFTER_SECONDS} seconds.`,
        state: unit.state,
        station: null,
        written: false
      };
    }
    const where: UnitPlace | null =
      unit.station_id === null
        ? null
        : { station: unit.station_id, state: unit.state!, before: unit.before };
    const decision = decideStep(route, station.id, where, mode, unit.number);
    if (!decision.ok) return refused(decision.says, unit.number);
    const at = route.find((one) => one.id === decision.place.station)?.code ?? null;
    if (mode !== 'look') await writeStep(tx, actor, unit, decision.place, mode, reason, now);
    return {
      epc: tag.epc,
      unit: unit.number,
      is: mode === 'look' ? 'looked' : 'moved',
      says: decision.says,
      state: decision.place.state,
      station: at,
      written: false
    };
  })) as ReadResult;
}

async function unitOf(tx: Tx, serial: string): Promise<UnitRow | null> {
  const [unit] = await tx<UnitRow[]>`
    SELECT n.id, n.number, p.code AS product, p.gtin, o.number AS order, n.order_id, p.route_id,
      s.station_id, s.state, s.before, e.happened_at AS at, s.action
    FROM planned_output n
      JOIN product p ON p.id = n.product_id
      JOIN trade_order o ON o.id = n.order_id
      LEFT JOIN LATERAL (
        SELECT * FROM station_step x WHERE x.unit_id = n.id ORDER BY x.event_id DESC LIMIT 1
      ) s ON true
      LEFT JOIN event e ON e.id = s.event_id
    WHERE n.id = ${serial}::bigint
  `;
  return unit ?? null;
}

/** One step: an event of kind station with who and when, and what it did. */
export async function writeStep(
  tx: Tx,
  actor: Pick<Actor, 'personId' | 'tokenId'>,
  unit: { id: number; order: string; order_id: number },
  place: UnitPlace,
  action: Exclude<ReadMode, 'look'>,
  reason: string | null,
  at: Date
): Promise<void> {
  const [event] = await tx<{ id: number }[]>`
    INSERT INTO event (kind, document, order_id, happened_at, booked_by, reason, token_id)
    VALUES (
      'station', ${unit.order}, ${unit.order_id}, ${at}, ${actor.personId}, ${reason},
        ${actor.tokenId ?? null}
    )
    RETURNING id
  `;
  await tx`
    INSERT INTO station_step (event_id, unit_id, station_id, action, state, before)
    VALUES (${event!.id}, ${unit.id}, ${place.station}, ${action}, ${place.state}, ${place.before})
  `;
}

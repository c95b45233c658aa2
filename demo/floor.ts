import { writeStep } from '../src/lib/server/making/station-read.ts';
import type { StationState } from '../src/lib/core/making/step.ts';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';

type Action = 'step' | 'hold' | 'release' | 'rework' | 'back';
/** Minutes a station takes, in the order of the route. */
const TAKES = [12, 9, 21, 6];

/**
 * The tags of the demo's jackets as they were read on the floor: those of the finished orders went
 * all the way, one through rework at the leak test and one held there; those of the open order
 * stand where they are today.
 */
export async function walkFloor(sql: Sql, personId: number, now: Date): Promise<void> {
  const stations = await sql<{ id: number }[]>`
    SELECT s.id
    FROM station s
      JOIN route r ON r.id = s.route_id
    WHERE r.code = 'JACKETS'
    ORDER BY s.position
  `;
  const units = await sql<{ id: number; order: string; order_id: number; built: Date | null }[]>`
    SELECT n.id, o.number AS order, n.order_id,
      (
        SELECT e.happened_at
        FROM mark m
          JOIN event e ON e.id = m.birth_event
        WHERE m.product_id = n.product_id AND m.number_key = n.number_key
      ) AS built
    FROM planned_output n
      JOIN trade_order o ON o.id = n.order_id
    ORDER BY n.id
  `;
  await sql.begin(async (tx) => {
    const put = (
      unit: (typeof units)[number],
      station: number,
      action: Action,
      state: StationState,
      before: StationState | null,
      at: number,
      reason: string | null = null
    ) =>
      writeStep(
        tx,
        { personId },
        unit,
        { station: stations[station]!.id, state, before },
        action,
        reason,
        new Date(at)
      );
    const through = async (
      unit: (typeof units)[number],
      station: number,
      from: number,
      minutes: number
    ): Promise<number> => {
      await put(unit, station, 'step', 'waiting', null, from);
      await put(unit, station, 'step', 'running', null, from + 4 * 60_000);
      await put(unit, station, 'step', 'finished', null, from + (4 + minutes) * 60_000);
      return from + (6 + minutes) * 60_000;
    };
    for (const [index, unit] of units.filter((one) => one.built !== null).entries()) {
      let at = unit.built!.getTime() - (100 - index) * 60_000;
      for (const [station, minutes] of TAKES.entries()) {
        if (station === 2 && index % 5 === 1) {
          await put(unit, station, 'step', 'waiting', null, at);
          await put(unit, station, 'step', 'running', null, at + 60_000);
          await put(
            unit,
            station,
            'rework',
            'rework',
            'running',
            at + 9 * 60_000,
            'Valve seat leaks; valve changed.'
          );
          await put(unit, station, 'back', 'waiting', null, at + 15 * 60_000);
          at += 16 * 60_000;
        }
        at = await through(unit, station, at, minutes + (index % 3));
      }
    }
    // The four of today: one at each of the first three stations, one of them held, and one not
    // begun.
    const open = units.filter((one) => one.built === null);
    for (const [index, unit] of open.slice(0, 3).entries()) {
      let at = now.getTime() - (3 - index) * 50 * 60_000;
      for (let station = 0; station < 2 - index; station++)
        at = await through(unit, station, at, TAKES[station]!);
      const here = 2 - index;
      await put(unit, here, 'step', 'waiting', null, Math.min(at, now.getTime() - 60_000));
      if (index !== 2)
        await put(
          unit,
          here,
          'step',
          'running',
          null,
          Math.min(at + 3 * 60_000, now.getTime() - 40_000)
        );
      if (index === 0)
        await put(
          unit,
          here,
          'hold',
          'held',
          'running',
          Math.min(at + 9 * 60_000, now.getTime() - 30_000),
          'Pressure falls by 4 mbar in a minute: seam to be looked at.'
        );
    }
  });
}

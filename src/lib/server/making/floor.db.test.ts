import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { nameOutputs } from './planned-outputs.ts';
import { putOrder } from '../orders/write-order.ts';
import { putProduct } from '../catalogue/products.ts';
import { putRoute, readRoutes } from '../catalogue/routes.ts';
import { garbleTag, placeTag, plugReader, readerAt, takeTag } from './tag-reader.ts';
import { readEventPage } from '../ledger/event-page.ts';
import { readFloor } from './floor.ts';
import type { ReadMode } from '../../core/making/step.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { Problem } from '../kernel/problem.ts';
import { readStation, tagOf } from './station-read.ts';

let world: World;
let epc: Record<string, string>;
const GTIN = '09520001001505';
let clock = Date.parse('2026-11-01T08:00:00Z');
beforeAll(async () => {
  world = await makeWorld();
  await putProduct(world.sql, 'F-UNIT', {
    name: 'unit',
    unit: 'each',
    decimals: 0,
    made: true,
    marking: 'serial',
    gtin: GTIN
  } as never);
  await putProduct(world.sql, 'F-OTHER', {
    name: 'other',
    unit: 'each',
    decimals: 0,
    made: true,
    marking: 'serial'
  } as never);
  await putRoute(world.sql, 'R1', {
    name: 'line',
    products: ['f-unit'],
    stations: [
      { code: 'W', name: 'weld' },
      { code: 'T', name: 'test' }
    ]
  });
  await putOrder(world.sql, world.actor, 'work', 'WO-F', {
    due: '2026-12-01',
    note: '',
    lines: [{ product: 'F-UNIT', quantity: '4' }]
  } as never);
  const named = await nameOutputs(world.sql, world.actor, 'WO-F', {
    numbers: ['F1', 'F2', 'F3', 'F4']
  });
  epc = Object.fromEntries(named.map((one) => [one.number, tagOf(GTIN, one.id)]));
});
afterAll(() => world.end());

/** One read of given tags, so many seconds after the last. */
async function read(
  station: string,
  tags: string[],
  mode: ReadMode = 'step',
  after = 60,
  reason: string | null = null
) {
  clock += after * 1000;
  return (
    await readStation(
      world.sql,
      world.actor,
      station,
      mode,
      reason,
      tags.map((tag) => ({ epc: tag, memory: '' })),
      new Date(clock)
    )
  ).results;
}
const says = (results: { is: string; says: string }[]) =>
  results.map((one) => `${one.is}: ${one.says}`);

describe('a read at a station', () => {
  it('moves a unit on, and records who and when every time', async () => {
    expect(says(await read('w', [epc.F1!]))).toEqual(['moved: F1 waits at weld.']);
    expect(says(await read('W', [epc.F1!]))).toEqual(['moved: F1 is running at weld.']);
    const [event] = await world.sql<
      { id: number; kind: string; document: string; booked_by: number; at: Date }[]
    >`SELECT e.id, e.kind, e.document, e.booked_by, e.happened_at AS at FROM event e JOIN station_step s ON s.event_id = e.id ORDER BY e.id DESC LIMIT 1`;
    expect(event).toMatchObject({
      kind: 'station',
      document: 'WO-F',
      booked_by: world.actor.personId
    });
    expect(event!.at.getTime()).toBe(clock);
    expect((await readEventPage(world.sql, event!.id))!.step).toEqual({
      unit: 'F1',
      product: 'F-UNIT',
      station: 'weld',
      state: 'running'
    });
  });
  // Practice (shared design, standards.md): the same tag is not read again within 10 s.
  it('does not read the same tag again within ten seconds', async () => {
    expect((await read('W', [epc.F2!])).map((one) => one.is)).toEqual(['moved']);
    expect((await read('W', [epc.F2!], 'step', 9)).map((one) => one.is)).toEqual(['again']);
    expect((await read('W', [epc.F2!], 'step', 2)).map((one) => one.is)).toEqual(['moved']);
  });
  it('takes one good tag beside bad ones, and says of each what is wrong', async () => {
    const results = await read('W', [
      '3074257BF7194E4000001A85',
      '30xx',
      epc.F3!,
      '3174257BF4499602D2000000',
      tagOf(GTIN, 999_999)
    ]);
    expect(results.map((one) => one.is)).toEqual([
      'refused',
      'refused',
      'moved',
      'refused',
      'refused'
    ]);
    expect(results.map((one) => one.says)).toEqual([
      expect.stringContaining('foreign code: GTIN 80614141123458, serial 6789'),
      expect.stringContaining('cannot be used'),
      'F3 waits at weld.',
      expect.stringContaining('of a carton or pallet'),
      expect.stringContaining('foreign code')
    ]);
  });
  it('holds with a reason, and nothing moves on before it is released', async () => {
    expect(says(await read('W', [epc.F3!], 'hold', 60, 'seam doubtful'))).toEqual([
      'moved: F3 is held at weld.'
    ]);
    expect((await world.sql`SELECT reason FROM event ORDER BY id DESC LIMIT 1`)[0]!.reason).toBe(
      'seam doubtful'
    );
    expect((await read('W', [epc.F3!]))[0]).toMatchObject({
      is: 'refused',
      says: expect.stringContaining('before it is released')
    });
    const steps = (
      await world.sql<{ n: number }[]>`SELECT count(*)::int AS n FROM station_step`
    )[0]!.n;
    expect((await read('T', [epc.F3!], 'look'))[0]).toMatchObject({ is: 'looked', state: 'held' });
    expect(
      (await world.sql<{ n: number }[]>`SELECT count(*)::int AS n FROM station_step`)[0]!.n
    ).toBe(steps);
  });
  it('is one step where twenty readers read the tag at once', async () => {
    clock += 60_000;
    const at = new Date(clock);
    const reads = await Promise.all(
      Array.from({ length: 20 }, () =>
        readStation(world.sql, world.actor, 'W', 'step', null, [{ epc: epc.F4!, memory: '' }], at)
      )
    );
    expect(reads.flatMap((one) => one.results).filter((one) => one.is === 'moved')).toHaveLength(1);
  });
});

describe('the simulated reader', () => {
  const now = () => new Date((clock += 60_000));
  it('reads what lies on it once, writes the unit’s last station on the tag, and carries that along', async () => {
    await read('W', [epc.F1!]);
    await placeTag(world.sql, 'T', epc.F1!);
    expect(
      (await readStation(world.sql, world.actor, 'T', 'step', null, null, now())).results
    ).toMatchObject([{ is: 'moved', says: 'F1 waits at test.', written: true }]);
    expect((await readerAt(world.sql, 'T')).tags).toEqual([{ epc: epc.F1, memory: 'T waiting' }]);
    // It stays there: seen all the time, it is not read again.
    clock += 5000;
    expect(
      (await readStation(world.sql, world.actor, 'T', 'step', null, null, new Date(clock))).results
    ).toEqual([]);
    await takeTag(world.sql, 'T', epc.F1!);
    await placeTag(world.sql, 'W', epc.F1!);
    expect((await readerAt(world.sql, 'W')).tags[0]!.memory).toBe('T waiting');
    await takeTag(world.sql, 'W', epc.F1!);
  });
  it('says so when it is unplugged, and loses nothing', async () => {
    await plugReader(world.sql, 'T', false);
    await placeTag(world.sql, 'T', epc.F1!);
    await expect(
      readStation(world.sql, world.actor, 'T', 'step', null, null, now())
    ).rejects.toMatchObject({ status: 409, errors: [{ code: 'device.silent' }] });
    await plugReader(world.sql, 'T', true);
    expect(
      (await readStation(world.sql, world.actor, 'T', 'step', null, null, now())).results
    ).toMatchObject([{ is: 'moved', says: 'F1 is running at test.' }]);
  });
  it('says what a garbled tag is, and reads it again once it is whole', async () => {
    await garbleTag(world.sql, 'T', epc.F1!);
    expect(
      (await readStation(world.sql, world.actor, 'T', 'step', null, null, now())).results[0]!.says
    ).toContain('cannot be used');
    await takeTag(world.sql, 'T', (await readerAt(world.sql, 'T')).tags[0]!.epc);
    await placeTag(world.sql, 'T', epc.F1!);
    expect(
      (await readStation(world.sql, world.actor, 'T', 'step', null, null, now())).results
    ).toMatchObject([{ says: 'F1 is finished at test, the last station.' }]);
  });
  it('needs the right, and a station that is there', async () => {
    await expect(
      readStation(world.sql, { ...world.actor, roles: ['auditor'] }, 'W', 'step', null, [], now())
    ).rejects.toMatchObject({ status: 403 });
    await expect(
      readStation(world.sql, world.actor, 'NOWHERE', 'step', null, [], now())
    ).rejects.toBeInstanceOf(Problem);
  });
});

describe('the board and its routes', () => {
  it('shows every unit where it stands, longest first, and what the stations did', async () => {
    const floor = await readFloor(world.sql, 'r1');
    expect(
      floor.units
        .filter((unit) => unit.station !== null)
        .map((unit) => `${unit.number} ${unit.state}`)
    ).toEqual(['F2 running', 'F3 held', 'F4 waiting']);
    expect(floor.stations.find((station) => station.code === 'W')!.figures).toMatchObject({
      finished: 1,
      firstPass: 1,
      minutes: expect.any(Number)
    });
  });
  it('are changed without losing what went through a station', async () => {
    await putRoute(world.sql, 'R1', {
      name: 'line',
      products: ['F-UNIT'],
      stations: [
        { code: 'T', name: 'leak test' },
        { code: 'P', name: 'pack' }
      ]
    });
    expect(
      (await readRoutes(world.sql))[0]!.stations.map((station) => [
        station.code,
        station.name,
        station.units
      ])
    ).toEqual([
      ['T', 'leak test', 1],
      ['P', 'pack', 0]
    ]);
    expect(
      (
        await world.sql<
          { n: number }[]
        >`SELECT count(*)::int AS n FROM station_step s JOIN station t ON t.id = s.station_id WHERE t.code = 'W'`
      )[0]!.n
    ).toBeGreaterThan(4);
  });
  it('refuse a station on two routes, one twice, and a product whose tags could carry no code', async () => {
    await expect(
      putRoute(world.sql, 'R2', {
        name: 'two',
        products: ['F-OTHER', 'NOPE'],
        stations: [
          { code: 'p', name: 'x' },
          { code: 'Q', name: 'y' },
          { code: 'q', name: 'z' }
        ]
      })
    ).rejects.toMatchObject({
      errors: [
        { path: 'stations[2].code' },
        { path: 'products[0]' },
        { path: 'products[1]' },
        { path: 'stations[0].code' }
      ]
    });
  });
});

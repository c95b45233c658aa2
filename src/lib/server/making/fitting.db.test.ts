import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { traceBySql } from '../trace/trace-by-sql.ts';
import { makeWorld, onHandByMovements, type World } from '../testing/world.ts';
import { reconcile } from '../ledger/reconcile.ts';
import { reverse } from '../ledger/kinds.ts';
import { readAsBuilt } from '../trace/as-built.ts';
import { build, fit, teardown } from './kinds.ts';

let world: World;
let n = 0;
/** A unit of cylinder C and 2 bolts, made anew for each test. */
let unit = '';
let cylinder = '';
let id = 0;
beforeAll(async () => {
  world = await makeWorld();
  await world.receive('BULK', [], '1000');
});
afterAll(async () => {
  expect((await reconcile(world.sql)).breaks).toEqual([]);
  await world.end();
});
beforeEach(async () => {
  n++;
  [unit, cylinder] = [`U${n}`, `C${n}`];
  await world.receive('SIL', [{ lot: 'CYL', serial: cylinder }]);
  await world.receive('SIL', [{ lot: 'CYL', serial: `${cylinder}x` }]);
  const { marks } = await world.build([
    {
      outputs: [{ product: 'MADE', serial: unit, quantity: '1' }],
      inputs: [
        { product: 'SIL', serial: cylinder, quantity: '1', position: 'left' },
        { product: 'BULK', quantity: '2' }
      ]
    }
  ] as never);
  id = marks[0]!.id;
});

const fitting = (work: object, document = `F-${n}`) =>
  ({
    ...{ document, place: 'DOCK', reason: 'weak' },
    units: [{ product: 'MADE', serial: unit, ...work }]
  }) as never;
const swap = () =>
  world.book(
    fit,
    fitting({
      remove: [{ product: 'SIL', serial: cylinder, to: 'RACK', state: 'held', position: 'left' }],
      fit: [{ product: 'SIL', serial: `${cylinder}x`, position: 'left' }]
    })
  );
const partsOf = async (how: Parameters<typeof readAsBuilt>[2]) =>
  (await readAsBuilt(world.sql, id, how))!.lines
    .slice(1)
    .map((line) =>
      `${line.mark?.number ?? line.product} ${line.quantity} ${line.position ?? ''}`.trim()
    );
const back = (event: number) =>
  world.book(reverse, { document: 'BACK', event, reason: 'mistaken' } as never);

describe('a swap', () => {
  it('leaves the record of its build as it was, and says what is in it now', async () => {
    const built = await partsOf({ as: 'built' });
    await swap();
    expect(built).toEqual(['BULK 2', `${cylinder} 1 left`]);
    expect(await partsOf({ as: 'built' })).toEqual(built);
    expect(await partsOf({ as: 'is' })).toEqual(['BULK 2', `${cylinder}x 1 left`]);
    expect(await partsOf({ as: 'is', day: '2001-01-01' })).toEqual([]);
    expect(await onHandByMovements(world.sql)).toContain(`SIL ${cylinder} RACK 1000000`);
  });
  it('is taken back: the old part is in again', async () => {
    const { event } = await swap();
    await back(event.id);
    expect(await partsOf({ as: 'is' })).toEqual(['BULK 2', `${cylinder} 1 left`]);
    const [mark] = await world.sql`SELECT state FROM mark WHERE number = ${cylinder}`;
    expect(mark).toEqual({ state: 'usable' });
  });
  it('stands in the way of taking the build back', async () => {
    const { event } = await swap();
    const [built] = await world.sql<{ id: number }[]>`
      SELECT birth_event AS id FROM mark WHERE id = ${id}
    `;
    const request = { document: 'X', event: built!.id, reason: 'no' } as never;
    expect(await world.refused(reverse, request)).toMatchObject([
      { code: 'event.moved-on', number: unit, event: event.id },
      { code: 'event.moved-on', number: cylinder, event: event.id }
    ]);
    await expect(
      world.sql.begin(async (tx) => {
        const [undo] = await tx<{ id: number }[]>`
          INSERT INTO event (kind, document, happened_at, booked_by, reason, reverses_id)
          VALUES ('reversal', 'X', now(), ${world.actor.personId}, 'attack', ${built!.id})
          RETURNING id
        `;
        await tx`
          INSERT INTO transformation_reversed (transformation_id, event_id)
          SELECT id, ${undo!.id} FROM transformation WHERE event_id = ${built!.id}
        `;
      })
    ).rejects.toMatchObject({ constraint_name: 'gives_back_what_went_in' });
  });
  it('ends what the old part reaches, and begins what the new one does', async () => {
    await swap();
    await world.ship([{ product: 'MADE', marks: [{ serial: unit }] }]);
    const customers = async (number: string) => {
      const [mark] = await world.sql<
        { id: number }[]
      >`SELECT id FROM mark WHERE number = ${number}`;
      return (await traceBySql(world.sql, [mark!.id], 'downstream'))!.ends.customers.length;
    };
    expect([await customers(cylinder), await customers(`${cylinder}x`)]).toEqual([0, 1]);
  });
  it('of two who take the same part out at once, one does', async () => {
    const take = (document: string) =>
      world.book(
        fit,
        fitting({ remove: [{ product: 'SIL', serial: cylinder, to: 'RACK' }] }, document)
      );
    const done = await Promise.allSettled([take('A'), take('B'), take('C')]);
    expect(done.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
  });
});

describe('a unit taken apart', () => {
  const apart = () =>
    world.book(teardown, {
      ...{ document: `TD-${n}`, place: 'RACK', reason: 'cracked' },
      units: [{ product: 'MADE', serial: unit, parts: [{ product: 'SIL', serial: cylinder }] }]
    } as never);
  it('is built again under its number, and each life says its own parts', async () => {
    await apart();
    expect(await partsOf({ as: 'is' })).toEqual([]);
    await world.book(build, {
      ...{ document: `B2-${n}`, place: 'LINE' },
      groups: [
        {
          outputs: [{ product: 'MADE', serial: unit, quantity: '1' }],
          inputs: [{ product: 'SIL', serial: `${cylinder}x`, quantity: '1' }]
        }
      ]
    } as never);
    expect(await partsOf({ as: 'built' })).toEqual([`${cylinder}x 1`]);
    expect(await partsOf({ as: 'is' })).toEqual([`${cylinder}x 1`]);
    const [old] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = ${cylinder}`;
    expect((await readAsBuilt(world.sql, old!.id, { as: 'is' }))!.lines).toHaveLength(1);
  });
});

describe('a unit of a batch', () => {
  it('has its share of what went into the batch, not all of it', async () => {
    await world.receive('KG', [{ lot: 'GLUE' }], '1.5');
    const { marks } = await world.book(build, {
      ...{ document: 'BATCH', place: 'LINE' },
      groups: [1, 2, 3, 4, 5, 6].map((at) => ({
        outputs: [{ product: 'MADE', serial: `B${at}`, quantity: '1' }],
        inputs: []
      })),
      shared: [{ product: 'KG', lot: 'GLUE', quantity: '1.5' }]
    } as never);
    const unitOf = (number: string) => marks.find((mark) => mark.number === number)!.id;
    expect((await readAsBuilt(world.sql, unitOf('B1'), { as: 'is' }))!.lines[1]).toMatchObject({
      quantity: '0.25'
    });
    await world.book(fit, {
      ...{ document: 'OUT', place: 'LINE', reason: 'dried out' },
      units: [
        {
          ...{ product: 'MADE', serial: 'B1' },
          remove: [{ product: 'KG', lot: 'GLUE', to: 'RACK', state: 'scrap' }]
        }
      ]
    } as never);
    expect((await readAsBuilt(world.sql, unitOf('B1'), { as: 'is' }))!.lines).toHaveLength(1);
    expect((await readAsBuilt(world.sql, unitOf('B2'), { as: 'is' }))!.lines).toHaveLength(2);
  });
});

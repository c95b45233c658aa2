import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { putPlace } from '../catalogue/partners-places.ts';
import { book } from '../ledger/book.ts';
import { ship } from '../shipping/kinds.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { move } from './kinds.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await putPlace(world.sql, 'QUAR', { name: 'quarantine', site: 'S1', kind: 'quarantine' });
});
afterAll(() => world.end());

const carry = (from: string, to: string, quantity: string, lot: string) => ({
  ...{ document: newKey(), kind: 'move' as const },
  lines: [{ product: 'LOT', lot, from, to, quantity }]
});

describe('quarantine', () => {
  it('binds part of a lot without the rest, until somebody with the right moves it out', async () => {
    await world.receive('LOT', [{ lot: 'Q1' }], '10');
    const shipper = { ...world.actor, roles: ['shipper' as const] };
    const by = (request: ReturnType<typeof carry>) =>
      book(world.sql, move, shipper, newKey(), request);
    await by(carry('DOCK', 'QUAR', '6', 'Q1'));
    const lines = (quantity: string) => [{ product: 'LOT', marks: [{ lot: 'Q1', quantity }] }];
    expect(
      await world.refused(ship, { document: 'S', customer: 'CUS', lines: lines('5') })
    ).toMatchObject([{ code: 'place.quarantine', number: 'Q1' }]);
    await world.ship(lines('4'));
    await expect(by(carry('QUAR', 'DOCK', '6', 'Q1'))).rejects.toMatchObject({ status: 403 });
    await world.book(move, carry('QUAR', 'DOCK', '6', 'Q1'));
    await world.ship(lines('6'));
  });
  it('is not made or unmade of a place that holds goods', async () => {
    await world.receive('LOT', [{ lot: 'Q2' }], '1', 'RACK');
    const change = (code: string, kind: 'rack' | 'quarantine') =>
      putPlace(world.sql, code, { name: code, site: 'S1', kind });
    await expect(change('RACK', 'quarantine')).rejects.toMatchObject({ status: 409 });
    await world.book(move, carry('RACK', 'QUAR', '1', 'Q2'));
    await expect(change('QUAR', 'rack')).rejects.toMatchObject({
      errors: [{ code: 'place.quarantine', path: 'kind' }]
    });
    await change('RACK', 'quarantine');
  });
});

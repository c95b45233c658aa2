import { afterAll, beforeAll, expect, it } from 'vitest';
import { makeWorld, type World } from '../../testing/world.ts';
import { idList } from './id-list.ts';
import { together } from './together.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld({ max: 2 });
});
afterAll(() => world.end());

it('asks several questions as one statement and gives each its rows, in their order, with what was asked for nothing empty', async () => {
  const answer = await world.sql.begin((tx) =>
    together<{
      product: { code: string; weight: string | null };
      partner: { name: string };
      none: { id: number };
      left: { id: number };
    }>(tx, {
      product: tx`
        SELECT code, (0.1::numeric(18, 6))::text AS weight
        FROM product
        WHERE code = ANY(${['LOT', 'KG']})
        ORDER BY code DESC
      `,
      partner: tx`SELECT name FROM partner WHERE code = ${'SUP'}`,
      none: tx`SELECT id FROM product WHERE code = ${"it's not there"}`,
      left: null
    })
  );
  expect(answer).toEqual({
    product: [
      { code: 'LOT', weight: '0.100000' },
      { code: 'KG', weight: '0.100000' }
    ],
    partner: [{ name: 'Supplier' }],
    none: [],
    left: []
  });
  expect(await world.sql.begin((tx) => together(tx, { left: null }))).toEqual({ left: [] });
});

it('a list of ids is one text that the database takes for an array', async () => {
  const [row] = await world.sql<
    { ids: string[]; none: string[] }[]
  >`SELECT ${idList([3, 1, 2])}::text::bigint[] AS ids, ${idList(new Uint32Array(0))}::text::bigint[] AS none`;
  expect([row!.ids.map(Number), row!.none]).toEqual([[3, 1, 2], []]);
});

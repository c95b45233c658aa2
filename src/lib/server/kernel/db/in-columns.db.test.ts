import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeWorld, type World } from '../../testing/world.ts';
import { inColumns } from './in-columns.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

interface Odd {
  id: number;
  text: string | null;
  amount: string;
  day: string;
}
const NAMES = ['id', 'text', 'amount', 'day'] as const;

describe('rows as columns', () => {
  it('are what the rows are one by one: order, empty ones, exact amounts, odd characters', async () => {
    const [columns, rows] = await world.sql.begin(async (tx) => {
      const query = () => tx`
        SELECT g AS id, CASE WHEN g % 3 > 0 THEN 'it''s "' || g || '"' || E'\\n\\\\' END AS text,
          (g / 7.0)::numeric(12, 6)::text AS amount, '2026-01-31'::date + g AS day
        FROM generate_series(1, 50) g
        ORDER BY g DESC
      `;
      return [await inColumns<Odd>(tx, NAMES, query()), await query()] as const;
    });
    const whole = columns.id.map((id, at) => ({
      id,
      text: columns.text[at],
      amount: columns.amount[at],
      day: columns.day[at]
    }));
    expect(whole).toEqual([...rows]);
  });

  it('are empty lists where nothing answers', async () => {
    const none = await world.sql.begin((tx) =>
      inColumns<{ id: number }>(tx, ['id'], tx`SELECT id FROM event WHERE id < 0`)
    );
    expect(none).toEqual({ id: [] });
  });
});

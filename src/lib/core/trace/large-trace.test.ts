import { expect, it } from 'vitest';
import { summarise } from './large-trace.ts';

it('adds up a trace by level and product, customer, supplier and place', () => {
  const end = (partner: string, document: string, mark: number, quantity: string) => ({
    event: 1,
    partner,
    document,
    at: '2026-01-01T00:00:00.000Z',
    mark,
    quantity
  });
  const large = summarise(
    {
      roots: 1,
      marks: [1, 2, 3, 4],
      levels: [0, 1, 1, 2],
      balances: [],
      ends: {
        customers: [
          end('FERRY', 'SO-1', 2, '1'),
          end('FERRY', 'SO-2', 4, '0.5'),
          end('CLUB', 'SO-1', 4, '0.25')
        ],
        suppliers: [end('LOOM', 'R-1', 1, '10')],
        origins: [],
        onHand: [
          { mark: 3, place: 'RACK', quantity: '1' },
          { mark: 4, place: 'RACK', quantity: '2.25' }
        ],
        scrapped: [{ mark: 4, place: 'RACK', quantity: '1', document: 'SC', at: '' }]
      }
    },
    ['ROLL', 'JACKET', 'JACKET', 'KIT']
  );
  expect(large).toMatchObject({ marks: 4, roots: 1, levels: 2 });
  expect(large.rows).toEqual([
    { level: 0, product: 'ROLL', marks: 1, out: 0, here: 0, scrapped: 0 },
    { level: 1, product: 'JACKET', marks: 2, out: 1, here: 1, scrapped: 0 },
    { level: 2, product: 'KIT', marks: 1, out: 1, here: 1, scrapped: 1 }
  ]);
  expect(large.customers).toEqual([
    {
      partner: 'FERRY',
      documents: ['SO-1', 'SO-2'],
      goods: [
        { product: 'JACKET', marks: 1, quantity: '1' },
        { product: 'KIT', marks: 1, quantity: '0.5' }
      ]
    },
    {
      partner: 'CLUB',
      documents: ['SO-1'],
      goods: [{ product: 'KIT', marks: 1, quantity: '0.25' }]
    }
  ]);
  expect(large.here).toEqual([
    {
      place: 'RACK',
      goods: [
        { product: 'JACKET', marks: 1, quantity: '1' },
        { product: 'KIT', marks: 1, quantity: '2.25' }
      ]
    }
  ]);
  expect(large.suppliers[0]).toMatchObject({
    partner: 'LOOM',
    goods: [{ product: 'ROLL', quantity: '10' }]
  });
});

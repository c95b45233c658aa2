import fc from 'fast-check';
import { expect, it } from 'vitest';
import { LazyOrder } from './lazy-order.ts';

it('is the order of a sort, however far it is looked at (property)', () => {
  fc.assert(
    fc.property(fc.array(fc.integer()), fc.nat({ max: 60 }), (things, far) => {
      const order = new LazyOrder(things, (a, b) => a - b),
        sorted = [...things].sort((a, b) => a - b);
      expect(order.length).toBe(things.length);
      for (let place = 0; place < far; place++) expect(order.at(place)).toBe(sorted[place]);
      expect(order.all()).toEqual(sorted);
      expect(order.length).toBe(things.length);
    })
  );
});

it('compares little where little is looked at', () => {
  let compared = 0;
  const things = Array.from({ length: 4096 }, (_, n) => (n * 7919) % 4096);
  const order = new LazyOrder(things, (a, b) => {
    compared++;
    return a - b;
  });
  for (let place = 0; place < 5; place++) expect(order.at(place)).toBe(place);
  expect(compared).toBeLessThan(3 * things.length);
});

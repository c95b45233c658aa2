import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { placeInColumns } from './river-order.ts';

const SIZE = { width: 160, height: 40, gap: 12, column: 240 };
const node = (key: string, column: number) => ({ key, column, x: -1, y: -1 });

describe('nodes of a river in their columns', () => {
  it('lie level with the one neighbour they have', () => {
    const nodes = [node('supplier', 0), node('lot', 1), node('unit', 2)];
    const height = placeInColumns(
      nodes,
      [
        { from: 'supplier', to: 'lot', weight: 10 },
        { from: 'lot', to: 'unit', weight: 4 }
      ],
      SIZE
    );
    expect(nodes.map(({ x }) => x)).toEqual([0, 240, 480]);
    expect(new Set(nodes.map(({ y }) => y))).toEqual(new Set([0]));
    expect(height).toBe(40);
  });

  it('do not cross where the order can be turned so that they need not', () => {
    const nodes = [node('a', 0), node('b', 0), node('of b', 1), node('of a', 1)];
    placeInColumns(
      nodes,
      [
        { from: 'a', to: 'of a', weight: 1 },
        { from: 'b', to: 'of b', weight: 1 }
      ],
      SIZE
    );
    const yOf = (key: string) => nodes.find((one) => one.key === key)!.y;
    expect(Math.sign(yOf('of a') - yOf('of b'))).toBe(Math.sign(yOf('a') - yOf('b')));
  });

  it('are drawn towards the neighbour that brings more', () => {
    const nodes = [node('much', 0), node('little', 0), node('made', 1)];
    placeInColumns(
      nodes,
      [
        { from: 'much', to: 'made', weight: 99 },
        { from: 'little', to: 'made', weight: 1 }
      ],
      SIZE
    );
    const [much, little, made] = nodes.map(({ y }) => y);
    expect(Math.abs(made! - much!)).toBeLessThan(Math.abs(made! - little!));
  });

  it('have their places beside a column with nobody in it', () => {
    const nodes = [node('supplier', 0), node('unit', 2)];
    expect(placeInColumns(nodes, [{ from: 'supplier', to: 'unit', weight: 1 }], SIZE)).toBe(40);
    expect(nodes.map(({ x, y }) => [x, y])).toEqual([
      [0, 0],
      [480, 0]
    ]);
  });

  it('never lie over each other, begin at the top, and fit the height that is told', () => {
    const graph = fc
      .array(fc.integer({ min: 0, max: 4 }), { minLength: 1, maxLength: 30 })
      .chain((columns) =>
        fc.record({
          columns: fc.constant(columns),
          ribbons: fc.array(
            fc.tuple(fc.nat(columns.length - 1), fc.nat(columns.length - 1), fc.nat(50)),
            { maxLength: 60 }
          )
        })
      );
    fc.assert(
      fc.property(graph, ({ columns, ribbons }) => {
        const nodes = columns.map((column, at) => node(`n${at}`, column));
        const joined = ribbons
          .filter(([from, to]) => columns[from]! < columns[to]!)
          .map(([from, to, weight]) => ({ from: `n${from}`, to: `n${to}`, weight }));
        const height = placeInColumns(nodes, joined, SIZE);
        expect(Math.min(...nodes.map(({ y }) => y))).toBe(0);
        expect(Math.max(...nodes.map(({ y }) => y)) + SIZE.height).toBeCloseTo(height, 6);
        for (const { x, column } of nodes) expect(x).toBe(column * SIZE.column);
        for (const column of new Set(columns)) {
          const ys = nodes.filter((one) => one.column === column).map(({ y }) => y);
          ys.sort((a, b) => a - b);
          const apart = ys.slice(1).map((y, at) => y - ys[at]!);
          // Less than a hair is rounding.
          expect(apart.every((by) => by > SIZE.height + SIZE.gap - 1e-6)).toBe(true);
        }
      })
    );
  });
});

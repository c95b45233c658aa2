import { describe, expect, test } from 'vitest';
import { branchesOf, type Branch, type TreeLine } from './bill-tree.ts';

const line = (level: number, product: string): TreeLine => ({
  ...{ level, product, name: '', unit: 'each', planned: '1' }
});
const said = (branches: readonly Branch[]): unknown[] =>
  branches.map(({ line: { product }, under }) =>
    under.length > 0 ? [product, ...said(under)] : product
  );

describe('a bill as a tree', () => {
  test('a part stands under what it goes into', () => {
    const lines = [line(1, 'A'), line(2, 'B'), line(3, 'C'), line(2, 'D'), line(1, 'E')];
    expect(said(branchesOf(lines))).toEqual([['A', ['B', 'C'], 'D'], 'E']);
  });

  test('a part that is used twice stands twice', () => {
    const lines = [line(1, 'A'), line(2, 'C'), line(1, 'B'), line(2, 'C')];
    expect(said(branchesOf(lines))).toEqual([
      ['A', 'C'],
      ['B', 'C']
    ]);
  });

  test('a bill without parts is no tree', () => expect(branchesOf([])).toEqual([]));
});

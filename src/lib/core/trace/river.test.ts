import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { layOutRiver, NODE, type RiverMaterial } from './river.ts';
import { anyGraph } from './testing/random-ledger.ts';
import { walk } from './walk.ts';

function material(
  graph: RiverMaterial['graph'],
  direction: RiverMaterial['direction'],
  more: Partial<RiverMaterial> = {}
): RiverMaterial {
  const levels = walk(graph, [1], direction);
  const reached = (mark: number) => levels.has(mark);
  return {
    direction,
    roots: [1],
    totals: new Map([...levels.keys()].map((mark) => [mark, 1])),
    bornOf: new Map(),
    marks: [...levels].map(([id, level]) => ({
      id,
      product: `P${id % 3}`,
      kind: 'lot',
      number: `N${id}`,
      state: 'usable',
      level,
      content: '1'
    })),
    graph: {
      transformations: graph.transformations.map((t) => ({
        ...t,
        inputs: t.inputs.filter((row) => reached(row.mark)),
        outputs: t.outputs.filter((row) => reached(row.mark))
      })),
      members: graph.members.filter((row) => reached(row.lot) && reached(row.serial)),
      fittings: graph.fittings.filter((row) => reached(row.component) && reached(row.host))
    },
    ends: {
      customers: [],
      suppliers: [{ partner: 'SUP', document: 'R', mark: 1, quantity: '1' }],
      onHand: [],
      scrapped: []
    },
    ...more
  };
}

describe('the river', () => {
  it('draws every mark once, no two stones on each other, every ribbon between two of them (property)', () => {
    fc.assert(
      fc.property(
        anyGraph,
        fc.constantFrom('upstream' as const, 'downstream' as const),
        ({ graph }, direction) => {
          const input = material(graph, direction);
          const river = layOutRiver(input);
          const drawn = river.nodes
            .filter((node) => node.kind === 'mark' || node.kind === 'bundle')
            .flatMap((node) => node.marks);
          expect(drawn.sort((a, b) => a - b)).toEqual(
            input.marks.map((mark) => mark.id).sort((a, b) => a - b)
          );
          const keys = new Set(river.nodes.map((node) => node.key));
          for (const ribbon of river.ribbons)
            expect(keys.has(ribbon.from) && keys.has(ribbon.to)).toBe(true);
          for (const a of river.nodes)
            for (const b of river.nodes)
              if (a !== b && a.column === b.column)
                expect(Math.abs(a.y - b.y)).toBeGreaterThanOrEqual(NODE.height);
        }
      ),
      { numRuns: 200 }
    );
  });

  it('folds siblings beyond a dozen into one bundle that says how many', () => {
    const graph = {
      members: [],
      fittings: [],
      transformations: [
        {
          id: 1,
          event: 5,
          inputs: [{ mark: 1, quantity: '1' }],
          outputs: Array.from({ length: 20 }, (_, i) => ({
            mark: i + 2,
            quantity: '1',
            share: null
          }))
        }
      ]
    };
    const base = material(graph, 'downstream');
    const river = layOutRiver({
      ...base,
      marks: base.marks.map((mark) => ({ ...mark, product: 'P' })),
      bornOf: new Map(base.marks.map((mark) => [mark.id, mark.level === 0 ? 1 : 5]))
    });
    expect(
      river.nodes.filter((node) => node.kind === 'bundle').map((node) => node.marks.length)
    ).toEqual([20]);
  });

  it('makes a ribbon as wide as what it carries', () => {
    const graph = {
      members: [],
      fittings: [],
      transformations: [
        {
          id: 1,
          event: 2,
          inputs: [{ mark: 1, quantity: '1' }],
          outputs: [
            { mark: 2, quantity: '3', share: null },
            { mark: 3, quantity: '1', share: null }
          ]
        }
      ]
    };
    const river = layOutRiver(material(graph, 'downstream'));
    const width = (to: string) => river.ribbons.find((ribbon) => ribbon.to === to)!.path.width;
    expect(width('mark 2') / width('mark 3')).toBeCloseTo(3);
  });

  it('keeps a lane free for a wide ribbon that crosses a column, on no stone', () => {
    // Half of the lot stays here, half goes through three units to a customer: the half that stays
    // crosses their column.
    const graph = {
      members: [],
      fittings: [],
      transformations: [2, 3, 4].map((mark) => ({
        id: mark,
        event: mark,
        inputs: [{ mark: 1, quantity: '1' }],
        outputs: [{ mark, quantity: '1', share: null }]
      }))
    };
    const base = material(graph, 'downstream');
    const river = layOutRiver({
      ...base,
      totals: new Map([
        [1, 6],
        [2, 1],
        [3, 1],
        [4, 1]
      ]),
      marks: base.marks.map((mark) => ({ ...mark, content: mark.id === 1 ? '6' : '1' })),
      ends: {
        ...base.ends,
        onHand: [{ mark: 1, place: 'RACK', quantity: '3' }],
        customers: [2, 3, 4].map((mark) => ({ partner: 'CUS', document: 'S', mark, quantity: '1' }))
      }
    });
    const staying = river.ribbons.find((ribbon) => ribbon.to === 'here RACK')!;
    expect(staying.path.via).toHaveLength(1);
    const lane = staying.path.via[0]!;
    for (const node of river.nodes.filter((one) => one.x === lane.x))
      expect(Math.abs(node.y + NODE.height / 2 - lane.y)).toBeGreaterThanOrEqual(NODE.height);
    expect(
      river.ribbons
        .filter((ribbon) => ribbon !== staying)
        .every((ribbon) => ribbon.path.via.length === 0)
    ).toBe(true);
  });
});

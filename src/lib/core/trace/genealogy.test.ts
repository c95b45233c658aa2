import fc from 'fast-check';
import { DirectedGraph } from 'graphology';
import { bfsFromNode } from 'graphology-traversal';
import { describe, expect, it } from 'vitest';
import { linksOf, type Direction, type Graph, type Transformation } from './graph.ts';
import { massBalance, openCauses } from './mass-balance.ts';
import { outlineOf } from './outline.ts';
import { anyGraph } from './testing/random-ledger.ts';
import { traceFindings, type TraceMaterial } from './trace.ts';
import { walk } from './walk.ts';

/**
 * Levels by the reference library graphology: a plain directed graph of all links, walked breadth
 * first.
 */
function byGraphology(
  marks: number,
  graph: Graph,
  root: number,
  direction: Direction
): Map<number, number> {
  const reference = new DirectedGraph();
  for (let mark = 1; mark <= marks; mark++) reference.addNode(mark);
  for (const { from, to } of linksOf(graph))
    if (from !== to)
      reference.mergeDirectedEdge(
        direction === 'downstream' ? from : to,
        direction === 'downstream' ? to : from
      );
  // The one rule a plain reversed walk does not have: a root lot pulls in its own serials.
  if (direction === 'upstream')
    for (const { lot, serial } of graph.members)
      if (lot === root) reference.mergeDirectedEdge(lot, serial);
  const levels = new Map<number, number>();
  bfsFromNode(reference, String(root), (node, _, depth) => {
    levels.set(Number(node), depth);
  });
  return levels;
}

describe('the walk', () => {
  it.each(['downstream', 'upstream'] as const)(
    '%s reaches what graphology reaches, at the same distance, loops included (property)',
    (direction) => {
      fc.assert(
        fc.property(anyGraph, fc.nat(), ({ marks, graph }, pick) => {
          const root = (pick % marks) + 1;
          const sorted = (levels: Map<number, number>) => [...levels].sort(([a], [b]) => a - b);
          expect(sorted(walk(graph, [root], direction))).toEqual(
            sorted(byGraphology(marks, graph, root, direction))
          );
        }),
        { numRuns: 1500 }
      );
    }
  );

  it('a serial pulls in its lot’s origin but not its sister serials; a lot pulls in its serials', () => {
    const graph: Graph = {
      transformations: [
        {
          id: 1,
          event: 1,
          inputs: [{ mark: 9, quantity: '1' }],
          outputs: [{ mark: 1, quantity: '2', share: null }]
        }
      ],
      members: [
        { lot: 1, serial: 2, event: 2 },
        { lot: 1, serial: 3, event: 2 }
      ],
      fittings: []
    };
    expect([...walk(graph, [2], 'upstream').keys()]).toEqual([2, 1, 9]);
    expect([...walk(graph, [2], 'downstream').keys()]).toEqual([2]);
    expect([...walk(graph, [9], 'downstream').keys()].sort()).toEqual([1, 2, 3, 9]);
    expect([...walk(graph, [1], 'upstream').keys()].sort()).toEqual([1, 2, 3, 9]);
  });

  it('keeps what a batch used and made apart: 1,000 outputs of 50 inputs are 1,050 rows', () => {
    const transformation: Transformation = {
      id: 1,
      event: 1,
      inputs: Array.from({ length: 50 }, (_, i) => ({ mark: i + 1, quantity: '1' })),
      outputs: Array.from({ length: 1000 }, (_, i) => ({
        mark: 100 + i,
        quantity: '1',
        share: null
      }))
    };
    expect(
      walk({ transformations: [transformation], members: [], fittings: [] }, [7], 'downstream').size
    ).toBe(1001);
  });
});

describe('mass balance', () => {
  const movements = [
    { kind: 'receive', quantity: '100' },
    { kind: 'build', quantity: '-30' },
    { kind: 'ship', quantity: '-20' },
    { kind: 'scrap', quantity: '-5' },
    { kind: 'loss', quantity: '-2' },
    { kind: 'move', quantity: '-4' },
    { kind: 'move', quantity: '4' }
  ];
  it('closes when every part is known', () => {
    expect(massBalance(movements, '43', '30')).toEqual({
      in: '100',
      onHand: '43',
      used: '30',
      shipped: '20',
      scrapped: '5',
      corrected: '-2',
      open: '0'
    });
  });
  it('shows what a missing link leaves open', () =>
    expect(massBalance(movements, '43', '20').open).toBe('10'));
});

describe('the outline', () => {
  it('opens each mark once, so a loop ends, and says where it was shown', () => {
    const loop: Graph = {
      members: [],
      fittings: [],
      transformations: [
        {
          id: 1,
          event: 1,
          inputs: [{ mark: 1, quantity: '1' }],
          outputs: [{ mark: 2, quantity: '1', share: null }]
        },
        {
          id: 2,
          event: 2,
          inputs: [{ mark: 2, quantity: '1' }],
          outputs: [{ mark: 1, quantity: '1', share: null }]
        }
      ]
    };
    expect(
      outlineOf(loop, 1, 'downstream').rows.map((row) => [row.mark, row.depth, row.again])
    ).toEqual([
      [1, 0, false],
      [2, 1, false],
      [1, 2, true]
    ]);
  });
  it('holds exactly the marks the walk reaches (property)', () => {
    fc.assert(
      fc.property(
        anyGraph,
        fc.constantFrom('upstream' as const, 'downstream' as const),
        ({ graph }, direction) => {
          expect(
            new Set(outlineOf(graph, 1, direction, 100_000).rows.map((row) => row.mark))
          ).toEqual(new Set(walk(graph, [1], direction).keys()));
        }
      ),
      { numRuns: 400 }
    );
  });
});

describe('the findings', () => {
  it('have the ends of every mark downstream, and the suppliers of the root', () => {
    const material: TraceMaterial = {
      direction: 'downstream',
      roots: [1],
      clocks: 'obey',
      from: null,
      content: true,
      hosts: { transformations: [], members: [], fittings: [] },
      rootUsed: new Map([[1, '4']]),
      marks: [
        { id: 1, kind: 'lot', unit: 'kg' },
        { id: 2, kind: 'serial', unit: 'each' }
      ],
      graph: {
        members: [],
        fittings: [],
        transformations: [
          {
            id: 1,
            event: 2,
            inputs: [{ mark: 1, quantity: '4' }],
            outputs: [{ mark: 2, quantity: '1', share: null }]
          }
        ]
      },
      events: [
        {
          id: 3,
          kind: 'ship',
          happened: 30,
          document: 'S',
          partner: 'CUS',
          at: '2026-03-01T00:00:00Z',
          by: 'Somebody'
        },
        {
          id: 1,
          kind: 'receive',
          happened: 10,
          document: 'R',
          partner: 'SUP',
          at: '2026-01-01T00:00:00Z',
          by: 'Somebody'
        },
        {
          id: 2,
          kind: 'build',
          happened: 20,
          document: 'B',
          partner: null,
          at: '2026-02-01T00:00:00Z',
          by: 'Somebody'
        },
        {
          id: 4,
          kind: 'hold',
          happened: 25,
          document: 'H',
          partner: null,
          at: '2026-02-02T00:00:00Z',
          by: 'Somebody'
        }
      ],
      movements: [
        { event: 1, mark: 1, place: 'D', quantity: '10' },
        { event: 2, mark: 1, place: 'D', quantity: '-4' },
        { event: 2, mark: 2, place: 'D', quantity: '1' },
        { event: 3, mark: 2, place: 'D', quantity: '-1' }
      ],
      changes: [{ event: 4, mark: 1 }],
      stock: [{ mark: 1, place: 'D', quantity: '6' }]
    };
    const findings = traceFindings(material);
    expect(findings.events.map((event) => event.kind)).toEqual([
      'receive',
      'build',
      'hold',
      'ship'
    ]);
    expect(findings.events[2]!.lines).toEqual([{ mark: 1, place: null, quantity: '0' }]);
    expect(findings.ends.customers).toEqual([
      {
        event: 3,
        partner: 'CUS',
        document: 'S',
        at: '2026-03-01T00:00:00Z',
        mark: 2,
        quantity: '1'
      }
    ]);
    expect(findings.ends.suppliers).toEqual([
      {
        event: 1,
        partner: 'SUP',
        document: 'R',
        at: '2026-01-01T00:00:00Z',
        mark: 1,
        quantity: '10'
      }
    ]);
    expect(findings.content!.get(2)).toBe('4');
    expect(findings.balances[0]!.open).toBe('0');
  });
});

describe('why a balance is open', () => {
  const moves: [string, string][] = [
    ['receive', '10'],
    ['build', '-4']
  ];
  const movements = moves.map(([kind, quantity]) => ({ kind, quantity }));
  it('is said in words: a build that names nothing, a use that nothing took, stock that is not there', () => {
    expect(openCauses(movements, '6', '4')).toEqual([]);
    expect(openCauses(movements, '6', '1')).toEqual([
      '3 went into builds that do not say what into'
    ]);
    expect(openCauses(movements, '6', '5')).toEqual([
      '1 are named as used, and no booking took them'
    ]);
    expect(openCauses(movements, '5.5', '4')).toEqual(['0.5 should lie here and do not']);
    expect(
      openCauses([...movements, { kind: 'reversal', quantity: '4', undoes: 'build' }], '10', '0')
    ).toEqual([]);
  });
  it('is never silent where the balance is open, nor loud where it closes (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 50 }),
        fc.integer({ min: 0, max: 50 }),
        fc.integer({ min: 0, max: 50 }),
        (built, used, here) => {
          const rows = [
            { kind: 'receive', quantity: '100' },
            ...(built > 0 ? [{ kind: 'build', quantity: `-${built}` }] : [])
          ];
          const causes = openCauses(rows, String(here), String(used));
          if (massBalance(rows, String(here), String(used)).open !== '0')
            expect(causes.length).toBeGreaterThan(0);
          if (causes.length === 0)
            expect(massBalance(rows, String(here), String(used)).open).toBe('0');
        }
      )
    );
  });
});

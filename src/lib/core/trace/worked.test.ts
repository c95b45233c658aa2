import { describe, expect, it } from 'vitest';
import { microOf } from './packed/amounts.ts';
import { noRows } from './packed/booked-rows.ts';
import { clearedMarks } from './packed/cleared.ts';
import { levelsOf } from './packed/levels.ts';
import { OpenLedger } from './packed/open-ledger.ts';
import { packedFigures } from './packed/packed-figures.ts';
import { eventKindCode } from './packed/packed-ledger.ts';
import { Walker } from './packed/packed-walk.ts';
import type { PackedCut } from './packed/reached.ts';
import { materialOf, pack } from './testing/booked-ledger.ts';
import type { SmallLedger } from './testing/random-history.ts';
import { traceFindings } from './trace.ts';

// Examples worked by hand: the first is the design's (time and parts), the others are worked in
// docs/domain.md. Each is asked of the packed engine and of the judge.

/** A ledger told in the order of booking; marks by name, quantities in their unit. */
class Story {
  readonly ledger: SmallLedger = {
    marks: 0,
    rows: noRows()
  };
  private readonly ids = new Map<string, number>();

  id(name: string): number {
    return this.ids.get(name)!;
  }
  name(id: number): string {
    return [...this.ids].find(([, one]) => one === id)![0];
  }
  lot(name: string): this {
    return this.mark(name, 1);
  }
  unit(...names: string[]): this {
    names.forEach((name) => this.mark(name, 2));
    return this;
  }
  private mark(name: string, kind: number): this {
    const id = ++this.ledger.marks;
    this.ids.set(name, id);
    this.ledger.rows.marks.push({ id, product: kind === 2 ? 1 : 3, kind, lot: 0, birth: 1 });
    return this;
  }

  /** @param day when it happened; the order of the calls is that of booking */
  event(kind: string, day: number, moves: Record<string, string>, undone = 0): number {
    const id = this.ledger.rows.events.length + 1;
    const undoes = undone ? this.ledger.rows.events[undone - 1]!.kind : 0;
    const partner = kind === 'ship' || kind === 'return' ? 1 : 0;
    const row = { id, kind: eventKindCode(kind), undoes, undone, at: day, partner, person: 1 };
    this.ledger.rows.events.push(row);
    for (const [mark, quantity] of Object.entries(moves))
      this.ledger.rows.movements.push({
        event: id,
        mark: this.id(mark),
        place: 1,
        quantity: microOf(quantity)
      });
    return id;
  }

  /** Uses and makes, by one transformation. */
  make(
    kind: string,
    day: number,
    used: Record<string, string>,
    made: Record<string, string>
  ): number {
    const moves: Record<string, string> = { ...made };
    for (const [name, amount] of Object.entries(used))
      if (name in made) delete moves[name];
      else moves[name] = `-${amount}`;
    const event = this.event(kind, day, moves);
    const side = (rows: Record<string, string>) =>
      Object.entries(rows).map(([name, amount]) => ({
        mark: this.id(name),
        quantity: microOf(amount)
      }));
    this.ledger.rows.transformations.push({
      id: this.ledger.rows.transformations.length + 1,
      event,
      shared: false,
      inputs: side(used),
      outputs: side(made).map((row) => ({ ...row, share: null }))
    });
    return event;
  }

  /** How far each mark is from the root, by name; engine and judge agree. */
  levels(root: string, direction: 'upstream' | 'downstream'): Record<string, number> {
    const roots = [this.id(root)];
    const reached = new Walker(new OpenLedger(pack(this.ledger.rows))).walk(roots, direction);
    const far = levelsOf(reached);
    const named = (all: Iterable<readonly [number, number]>) =>
      Object.fromEntries([...all].map(([mark, level]) => [this.name(mark), level] as const).sort());
    const marks = [...reached.marks.data.subarray(0, reached.marks.length)];
    const answer = named(marks.map((mark, n) => [mark, far[n]!] as const));
    expect(named(traceFindings(materialOf(this.ledger, roots, direction)).levels)).toEqual(answer);
    return answer;
  }

  /** What a trace says: content by name, who got it, what was cleared; engine and judge agree. */
  trace(root: string, direction: 'upstream' | 'downstream' = 'downstream', from?: number) {
    const roots = [this.id(root)];
    const cut: PackedCut = from === undefined ? {} : { from: [from] };
    const ledger = new OpenLedger(pack(this.ledger.rows)),
      walker = new Walker(ledger);
    const reached = walker.walk(roots, direction, cut);
    const cleared = clearedMarks(() => new Walker(ledger), reached, roots, direction, cut);
    const figures = packedFigures(walker, reached, cleared, 1, direction, cut, () => 1);
    const marks = [...reached.marks.data.subarray(0, reached.marks.length)];
    const answer = {
      content: Object.fromEntries(
        marks
          .map((mark, n) => [
            this.name(mark),
            figures.content ? figures.contents[figures.content[n]!]! : ''
          ])
          .sort()
      ) as Record<string, string>,
      customers: [...figures.ends.customers.mark].map((mark) => this.name(mark)).sort(),
      cleared: [...cleared].map((mark) => this.name(mark)).sort()
    };
    const judge = traceFindings(
      materialOf(this.ledger, roots, direction, from === undefined ? {} : { from: new Set([from]) })
    );
    expect({
      content: Object.fromEntries(
        [...judge.levels.keys()]
          .map((mark) => [this.name(mark), judge.content ? (judge.content.get(mark) ?? '0') : ''])
          .sort()
      ) as Record<string, string>,
      customers: judge.ends.customers.map((end) => this.name(end.mark)).sort(),
      cleared: judge.cleared.marks.map((mark) => this.name(mark)).sort()
    }).toEqual(answer);
    return answer;
  }
}

describe('examples worked by hand', () => {
  it('a batch topped up: the first five units have none of what came later, the sixth has a quarter', () => {
    const story = new Story().lot('R-A').lot('R-B').lot('R-C').lot('M');
    const units = ['U1', 'U2', 'U3', 'U4', 'U5', 'U6'];
    story.unit(...units);
    story.event('receive', 1, { 'R-A': '16', 'R-C': '4', 'R-B': '5' });
    story.make('build', 2, { 'R-A': '16', 'R-C': '4' }, { M: '20' });
    units.slice(0, 5).forEach((unit, n) => story.make('build', 3 + n, { M: '1' }, { [unit]: '1' }));
    story.event('ship', 8, { U1: '-1' });
    story.make('build', 9, { 'R-B': '5' }, { M: '5' });
    story.make('build', 10, { M: '1' }, { U6: '1' });
    expect(story.trace('R-A').content).toMatchObject({ M: '16', U1: '0.8', U5: '0.8', U6: '0.6' });
    expect(story.trace('R-A').customers).toEqual(['U1']);
    expect(story.trace('R-B')).toEqual({
      content: { M: '5', 'R-B': '5', U6: '0.25' },
      customers: [],
      cleared: ['U1', 'U2', 'U3', 'U4', 'U5']
    });
    expect(Object.keys(story.trace('U1', 'upstream').content).sort()).toEqual([
      'M',
      'R-A',
      'R-C',
      'U1'
    ]);
  });

  it('booked late: what happened before and was booked after clears nothing', () => {
    const story = new Story().lot('R').lot('M').unit('U');
    story.event('receive', 1, { M: '10', R: '5' });
    story.make('build', 5, { R: '5' }, { M: '5' });
    // On day 3, before R came to M on day 5; but it was booked afterwards, so nobody knows.
    story.make('build', 3, { M: '1' }, { U: '1' });
    const { content, cleared } = story.trace('R');
    expect(Object.keys(content)).toContain('U');
    expect(cleared).toEqual([]);
    // By the dates U was made of what held none of it.
    expect(content.U).toBe('0');
  });

  it('rework keeps what was in it and adds the part; a part taken out leaves with what it was', () => {
    const story = new Story().unit('P', 'Q', 'U').lot('GLUE');
    story.event('receive', 1, { P: '1', Q: '1', GLUE: '2' });
    story.make('build', 2, { P: '1', GLUE: '0.5' }, { U: '1' });
    story.event('ship', 3, { U: '-1' });
    story.event('return', 4, { U: '1' });
    story.make('build', 5, { U: '1', Q: '1' }, { U: '1' });
    expect(story.trace('GLUE').content.U).toBe('0.5');
    expect(story.trace('Q').content.U).toBe('1');
    const out = story.event('remove', 6, { P: '1' });
    story.ledger.rows.removals.push({
      component: story.id('P'),
      host: story.id('U'),
      quantity: 1_000_000n,
      event: out
    });
    story.event('ship', 7, { U: '-1' });
    // Whoever has U now does not have P; the glue and Q are still in it.
    expect(story.trace('P').customers).toEqual([]);
    expect(story.trace('GLUE')).toMatchObject({ content: { U: '0.5' }, customers: ['U'] });
    expect(Object.keys(story.trace('U', 'upstream').content).sort()).toEqual(['GLUE', 'Q', 'U']);
    expect(story.trace('GLUE').content).not.toHaveProperty('P');
  });

  it('taken apart: a suspect part infects none of its sisters; a suspect unit all that was in it', () => {
    const story = new Story().unit('P', 'Q', 'U', 'V');
    story.event('receive', 1, { P: '1', Q: '1' });
    story.make('build', 2, { P: '1', Q: '1' }, { U: '1' });
    story.make('teardown', 3, { U: '1' }, { P: '1', Q: '1' });
    story.make('build', 4, { Q: '1' }, { V: '1' });
    story.event('ship', 5, { V: '-1' });
    expect(story.trace('P')).toEqual({
      content: { P: '1', U: '0' },
      customers: [],
      cleared: ['Q', 'V']
    });
    expect(story.trace('Q')).toMatchObject({ content: { V: '1' }, customers: ['V'] });
    expect(story.trace('U')).toMatchObject({ customers: ['V'], cleared: [] });
    expect(Object.keys(story.trace('Q', 'upstream').content)).toEqual(['Q']);
  });

  it('a part whose number nobody recorded has an even share of what is not accounted for', () => {
    const story = new Story().lot('ROD').lot('BOLT').lot('LOTU').lot('X');
    story.event('receive', 1, { ROD: '10', BOLT: '40' });
    // Ten units of one rod and four bolts; two are taken apart: their bolts come out, and scrap.
    story.make('build', 2, { ROD: '10', BOLT: '40' }, { LOTU: '10' });
    story.make('teardown', 3, { LOTU: '2' }, { BOLT: '8', X: '1' });
    expect(story.trace('ROD').content).toEqual({ LOTU: '8', ROD: '10', X: '2' });
    expect(story.trace('BOLT').content).toEqual({ BOLT: '40', LOTU: '32' });
  });

  it('a unit taken apart and built again: what came out of it is no step away, but what it came by', () => {
    const story = new Story().lot('RESIN').unit('SEAL').lot('WASTE').unit('PUMP').lot('SCRAP');
    story.event('receive', 0, { RESIN: '0.000003' });
    story.make('build', 0, { RESIN: '0.000001' }, { SEAL: '1' });
    story.make('build', 3, { RESIN: '0.000002', SEAL: '1' }, { WASTE: '0.000001', PUMP: '1' });
    // All its resin comes out; of the seal nothing is known, so it may be in the scrap.
    story.make('teardown', 4, { PUMP: '1' }, { RESIN: '0.000001', SCRAP: '0.000001' });
    // Booked last and dated first: by one of the clocks the scrap of the pump can be in the pump.
    story.make('build', 0, { WASTE: '0.000001', SCRAP: '0.000001' }, { PUMP: '1' });
    expect(story.levels('PUMP', 'upstream')).toEqual({
      ...{ PUMP: 0, WASTE: 1, SCRAP: 1, SEAL: 1 },
      RESIN: 2 // by the waste, or the seal; no resin is in the pump by itself any more
    });
  });

  it('taken back: the content is where it was, and what started at an event is that event’s', () => {
    const story = new Story().lot('R').lot('M').unit('U');
    const first = story.event('receive', 1, { R: '10' });
    const build = story.make('build', 2, { R: '4' }, { M: '4' });
    const back = story.event('reversal', 3, { R: '4', M: '-4' }, build);
    story.ledger.rows.takenBack.push({ transformation: 1, event: back });
    const second = story.event('receive', 4, { R: '30' });
    story.make('build', 5, { R: '8' }, { U: '1' });
    expect(story.trace('R').content).toEqual({ R: '40', U: '8' });
    expect(story.trace('R', 'downstream', first).content).toEqual({ R: '10', U: '2' });
    expect(story.trace('R', 'downstream', second).content).toEqual({ R: '30', U: '6' });
  });
});

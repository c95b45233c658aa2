import {
  mkdtempSync,
  openSync,
  readFileSync,
  rmSync,
  truncateSync,
  writeFileSync,
  writeSync,
  closeSync
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { quality } from '../../quality/kinds.ts';
import { reverse } from '../../ledger/kinds.ts';
import { goodsReturn } from '../../shipping/kinds.ts';
import { bookThroughLevels, makeWorld, type World } from '../../testing/world.ts';
import { randomBookings } from '../../testing/random-bookings.ts';
import { forgetForeignTransactions } from '../../kernel/db/after-restore.ts';
import { connect } from '../../kernel/db/client.ts';
import { withDatabase } from '../../testing/template.ts';
import { readBySql, readCommonSources } from '../common-source.ts';
import { reachedMarks, traceFigures, traceJson, traceMarks } from '../trace.ts';
import {
  spellOut,
  type TraceAnswer,
  type TraceCut,
  type TraceDrawing
} from '../../../core/trace/trace-answer.ts';
import { traceBySql } from '../trace-by-sql.ts';
import { NoIndex, TraceEngine } from './engine.ts';
import { engineOf, startEngine, stopEngine } from './engines.ts';

let world: World, folder: string, url: string, more: (count: number) => Promise<void>;
const file = () => join(folder, 'genealogy.idx');
const ids = async (): Promise<number[]> =>
  (await world.sql<{ id: number }[]>`SELECT id FROM mark ORDER BY id`).map((row) => row.id);

/** Lists whose order says nothing, put in one. */
function settled(trace: TraceDrawing | TraceAnswer | null) {
  if (!trace) return null;
  const sorted = <T>(list: readonly T[]) =>
    [...list].sort((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1));
  const { ends, events } = trace;
  const links = 'graph' in trace ? spellOut(trace).links : trace.links;
  const { graph: _, ...rest } = trace as TraceDrawing;
  return {
    ...rest,
    links: sorted(links),
    events: events.map((event) => ({ ...event, lines: sorted(event.lines) })),
    ends: {
      customers: sorted(ends.customers),
      onHand: sorted(ends.onHand),
      scrapped: sorted(ends.scrapped),
      suppliers: sorted(ends.suppliers)
    }
  };
}

async function sameAsSql(
  roots: readonly number[],
  direction: 'upstream' | 'downstream',
  cut: TraceCut = {}
): Promise<void> {
  const [index, sql] = [
    await traceMarks(world.sql, roots, direction, cut),
    await traceBySql(world.sql, roots, direction, cut)
  ];
  expect(settled(index)).toEqual(settled(sql));
}

beforeAll(async () => {
  world = await makeWorld();
  folder = mkdtempSync(join(tmpdir(), 'earmark-index-'));
  url = withDatabase(
    process.env.EARMARK_TEST_APP_URL!,
    (world.sql as unknown as { options: { database: string } }).options.database
  );
  await bookThroughLevels(world);
  more = await randomBookings(world, 50);
  await startEngine(world.sql, { url, file: file(), threads: 2 }).ready;
});
afterAll(async () => {
  await stopEngine(world.sql);
  await world.end();
  rmSync(folder, { recursive: true, force: true });
});

describe('the index answers what SQL answers', () => {
  it('is ready, packed from the ledger, and small', () => {
    expect(engineOf(world.sql)!.status()).toMatchObject({
      state: 'ready',
      from: 'ledger',
      readers: 2,
      added: 0
    });
    expect(engineOf(world.sql)!.status().bytes).toBeGreaterThan(1000);
  });

  it('for every mark, both ways: marks, levels, content, links, events, ends, balances', async () => {
    for (const id of await ids()) {
      await sameAsSql([id], 'downstream');
      await sameAsSql([id], 'upstream');
    }
  });

  it('for many roots at once, a mark that is not there among them, and none that is there', async () => {
    const all = await ids();
    await sameAsSql(all.slice(0, 12), 'downstream');
    await sameAsSql([...all.slice(3, 9), 999_999], 'upstream');
    expect(await traceMarks(world.sql, [999_999], 'downstream')).toBeNull();
    expect(await traceFigures(world.sql, [999_999], 'upstream')).toBeNull();
    expect(await traceJson(world.sql, [999_999], 'upstream')).toBeNull();
  });

  it('cut at an instant, by product and by kind of event', async () => {
    const all = await ids();
    const [{ half }] = await world.sql<
      [{ half: Date }]
    >`SELECT happened_at AS half FROM event ORDER BY id OFFSET (SELECT count(*) / 2 FROM event) LIMIT 1`;
    for (const cut of [
      { until: half },
      { withoutProducts: ['MADELOT'] },
      { withoutProducts: ['made', 'sil'] },
      { withoutKinds: ['build'] },
      { until: half, withoutProducts: ['KG'] }
    ] satisfies TraceCut[]) {
      for (const id of all.slice(0, 20)) {
        await sameAsSql([id], 'downstream', cut);
        await sameAsSql([id], 'upstream', cut);
      }
    }
  });

  it('as JSON text, as figures, as marks alone', async () => {
    for (const id of (await ids()).slice(0, 24)) {
      const sql = (await traceBySql(world.sql, [id], 'downstream'))!;
      const text = Buffer.concat((await traceJson(world.sql, [id], 'downstream'))!).toString(
        'utf8'
      );
      expect(settled(JSON.parse(text) as TraceAnswer)).toEqual(settled(spellOut(sql)));
      const figures = (await traceFigures(world.sql, [id], 'downstream'))!;
      expect(new Set(Array.from(figures.marks))).toEqual(new Set(sql.marks.map((mark) => mark.id)));
      expect(
        Object.fromEntries(
          Array.from(figures.marks, (mark, n) => [mark, figures.contents[figures.content![n]!]])
        )
      ).toEqual(Object.fromEntries(sql.marks.map((mark) => [mark.id, mark.content])));
      expect(figures.balances).toEqual(sql.balances);
      expect(new Set(await reachedMarks(world.sql, [id], 'downstream'))).toEqual(
        new Set(sql.marks.map((mark) => mark.id))
      );
    }
  });
});

describe('a trace of several roots as a file', () => {
  it('is JSON whichever root comes first', async () => {
    const roots = (await ids()).slice(0, 5).reverse();
    const pieces = (await traceJson(world.sql, roots, 'downstream'))!;
    const trace = JSON.parse(Buffer.concat(pieces).toString('utf8')) as TraceAnswer;
    expect(trace.roots.map((root) => root.id)).toEqual(roots);
    expect(trace.marks.length).toBeGreaterThanOrEqual(roots.length);
  });
});

describe('a common source by the index', () => {
  it('is what SQL counts, whatever the population: marks, suppliers, place, person and day', async () => {
    const serials = (
      await world.sql<
        { id: number }[]
      >`SELECT id FROM mark WHERE kind = 'serial' AND number LIKE 'RS-%' ORDER BY id LIMIT 6`
    ).map((row) => row.id);
    await world.ship([
      {
        product: 'MADE',
        place: 'LINE',
        marks: [
          {
            serial: (
              await world.sql<
                { number: string }[]
              >`SELECT m.number FROM mark m JOIN stock s ON s.mark_id = m.id AND s.quantity > 0 WHERE m.id = ANY(${serials})`
            )[0]!.number
          }
        ]
      }
    ]);
    for (const population of ['product', 'shipped', (await ids()).slice(4, 40)] as const) {
      for (const troubled of [serials.slice(0, 2), serials.slice(0, 4), serials]) {
        const [index, sql] = [
          await readCommonSources(world.sql, troubled, population),
          await readBySql(world.sql, troubled, population)
        ];
        expect(index.sources.map((one) => one.key).sort()).toEqual(
          sql.sources.map((one) => one.key).sort()
        );
        expect(index).toEqual(sql);
      }
    }
  });
});

describe('it never misses a committed booking', () => {
  it('what was booked a moment ago is in the next answer: builds, shipments, returns, holds, reversals, stock that gets numbers', async () => {
    await more(25);
    const made = await world.build([
      {
        outputs: [{ product: 'MADE', serial: 'LATE-1', quantity: '1' }],
        inputs: [{ product: 'KG', lot: 'RESIN', quantity: '0.5' }]
      }
    ]);
    const late = made.marks[0]!.id;
    await sameAsSql([late], 'upstream');
    await world.ship([{ product: 'MADE', place: 'LINE', marks: [{ serial: 'LATE-1' }] }]);
    await sameAsSql([late], 'downstream');
    expect((await traceFigures(world.sql, [late], 'downstream'))!.ends.customers).toMatchObject([
      { partner: 'CUS', quantity: '1' }
    ]);
    await world.book(goodsReturn, {
      document: 'RT-1',
      customer: 'CUS',
      place: 'DOCK',
      reason: 'leaks',
      lines: [{ product: 'MADE', serial: 'LATE-1' }]
    });
    await sameAsSql([late], 'downstream');
    expect((await traceFigures(world.sql, [late], 'downstream'))!.ends.customers).toEqual([]);
    const gone = await world.build([
      {
        outputs: [{ product: 'MADE', serial: 'LATE-2', quantity: '1' }],
        inputs: [{ product: 'KG', lot: 'RESIN', quantity: '0.25' }]
      }
    ]);
    await world.book(quality, {
      document: 'Q-1',
      kind: 'hold',
      reason: 'odd',
      marks: [{ product: 'LOT', lot: 'RL-2' }]
    });
    await world.book(reverse, { document: 'X-1', event: gone.event.id, reason: 'wrong order' });
    for (const id of await ids()) {
      await sameAsSql([id], 'downstream');
      await sameAsSql([id], 'upstream');
    }
    expect(engineOf(world.sql)!.status().added).toBeGreaterThan(0);
  });

  it('a booking that began earlier and is committed later is found when it is committed, and not before', async () => {
    const [{ id: kg, place }] = await world.sql<
      [{ id: number; place: number }]
    >`SELECT m.id, s.place_id AS place FROM mark m JOIN stock s ON s.mark_id = m.id AND s.quantity > 1 WHERE m.number = 'RESIN'`;
    const scrapped = async () =>
      (await traceFigures(world.sql, [kg], 'downstream'))!.ends.scrapped
        .filter((end) => end.mark === kg)
        .map((end) => end.document);
    let commit!: () => void, written!: () => void;
    const mayCommit = new Promise<void>((go) => {
        commit = go;
      }),
      isWritten = new Promise<void>((go) => {
        written = go;
      });
    const slow = world.sql.begin(async (tx) => {
      const [event] = await tx<{ id: number }[]>`
        INSERT INTO event (kind, document, happened_at, booked_by, reason)
        VALUES ('scrap', 'EARLY', now(), ${world.actor.personId}, 'spilt')
        RETURNING id
      `;
      await tx`
        INSERT INTO movement (event_id, mark_id, place_id, quantity)
        VALUES (${event!.id}, ${kg}, ${place}, -0.001)
      `;
      written();
      await mayCommit;
    });
    await isWritten;
    // A later id, committed first.
    await world.build([
      {
        outputs: [{ product: 'MADE', serial: 'BETWEEN', quantity: '1' }],
        inputs: [{ product: 'LOT', lot: 'RL-0', quantity: '0.125' }]
      }
    ]);
    expect(await scrapped()).not.toContain('EARLY');
    commit();
    await slow;
    expect(await scrapped()).toContain('EARLY');
    expect((await scrapped()).filter((document) => document === 'EARLY')).toHaveLength(1);
    await sameAsSql([kg], 'downstream');
  });

  it('many who ask at once over few connections are all answered, whatever they ask for', async () => {
    const [root] = await ids();
    const few = connect(url, { max: 3, role: 'earmark_app' });
    try {
      const asked = Array.from({ length: 60 }, (_, n) =>
        n % 2 === 0
          ? traceMarks(few, [root!], 'downstream')
          : traceFigures(few, [root!], 'downstream')
      );
      // Something is booked while they wait for their turns.
      await more(5);
      for (const trace of await Promise.all(asked)) expect(trace).not.toBeNull();
    } finally {
      await few.end({ timeout: 1 });
    }
  });

  it('while others book, every answer is whole: no balance is ever open, and what its asker booked is in it', async () => {
    let going = true;
    const booking = (async () => {
      for (let n = 0; going; n++)
        await world.receive(
          'SIL',
          Array.from({ length: 40 }, (_, i) => ({ lot: `BUSY-${n % 3}`, serial: `B-${n}-${i}` }))
        );
    })();
    for (let n = 0; n < 25; n++) {
      const booked = await world.build([
        {
          outputs: [{ product: 'MADELOT', lot: `ASK-${n}`, quantity: '1' }],
          inputs: [{ product: 'LOT', lot: 'RL-1', quantity: '0.125' }]
        }
      ]);
      const [{ id: root }] = await world.sql<
        [{ id: number }]
      >`SELECT id FROM mark WHERE number = 'RL-1'`;
      const answers = await Promise.all([
        traceMarks(world.sql, [root], 'downstream'),
        traceMarks(world.sql, [booked.marks[0]!.id], 'upstream')
      ]);
      expect(answers[0]!.marks.map((mark) => mark.id)).toContain(booked.marks[0]!.id);
      for (const answer of answers) expect(answer!.balance.open).toBe('0');
    }
    going = false;
    await booking;
  });
});

describe('rows come with their event', () => {
  it('nobody adds to a booking later, so nothing of it can be missed', async () => {
    const [{ event, mark, place, tie }] = await world.sql<
      [{ event: number; mark: number; place: number; tie: number }]
    >`SELECT v.event_id AS event, v.mark_id AS mark, v.place_id AS place, (SELECT max(id) FROM transformation) AS tie FROM movement v ORDER BY v.id LIMIT 1`;
    const refused = { constraint_name: 'comes_with_its_event' };
    await expect(
      world.sql`INSERT INTO movement (event_id, mark_id, place_id, quantity) VALUES (${event}, ${mark}, ${place}, 1)`
    ).rejects.toMatchObject(refused);
    await expect(
      world.sql`INSERT INTO transformation (event_id) VALUES (${event})`
    ).rejects.toMatchObject(refused);
    await expect(
      world.sql`INSERT INTO transformation_input (transformation_id, mark_id, quantity) VALUES (${tie}, (SELECT max(id) FROM mark), 1)`
    ).rejects.toMatchObject(refused);
    await expect(
      world.sql`INSERT INTO mark (product_id, kind, number, birth_event) SELECT product_id, 'serial', 'LATECOMER', ${event} FROM mark LIMIT 1`
    ).rejects.toMatchObject(refused);
    await expect(
      world.sql`INSERT INTO event (kind, document, happened_at, booked_by, booked_xid) VALUES ('receive', 'X', now(), ${world.actor.personId}, '3')`
    ).rejects.toMatchObject({ code: '42501' });
  });
});

describe('it starts from what was kept, and only from what is good', () => {
  const start = async (): Promise<TraceEngine> => {
    await stopEngine(world.sql);
    const { engine, ready } = startEngine(world.sql, { url, file: file(), threads: 1 });
    await ready;
    // The thread that read the ledger keeps it in the file before it ends.
    await expect.poll(() => engine.status().packing, { timeout: 90_000 }).toBe(false);
    return engine;
  };

  it('from its file, with what was booked meanwhile', async () => {
    await more(10);
    const engine = await start();
    expect(engine.status()).toMatchObject({ state: 'ready', from: 'file' });
    for (const id of (await ids()).slice(0, 30)) await sameAsSql([id], 'downstream');
    expect(engine.status().added).toBeGreaterThan(0);
  });

  it('from the ledger where the file is cut short, damaged, of another version or of another ledger', async () => {
    const good = readFileSync(file());
    truncateSync(file(), good.length - 20);
    expect((await start()).status().from).toBe('ledger');
    const damaged = openSync(file(), 'r+');
    writeSync(damaged, Buffer.from([0xff]), 0, 1, readFileSync(file()).length - 9);
    closeSync(damaged);
    expect((await start()).status().from).toBe('ledger');
    writeFileSync(file(), Buffer.concat([Buffer.from('NOTOURS!'), good.subarray(8)]));
    expect((await start()).status().from).toBe('ledger');
    const kept = readFileSync(file(), 'latin1'),
      other = kept.replace(/"bookedAt":"\d{4}/, '"bookedAt":"1999');
    expect(other).not.toBe(kept);
    writeFileSync(file(), other, 'latin1');
    expect((await start()).status().from).toBe('ledger');
    for (const id of (await ids()).slice(0, 10)) await sameAsSql([id], 'upstream');
  });
});

describe('a backup put in the ledger’s place', () => {
  it('is noticed at the next question: the database answers it, and the index is made anew', async () => {
    const engine = engineOf(world.sql)!,
      [root] = await ids();
    await sameAsSql([root!], 'downstream');
    // What a restore leaves: the last event is another one than the index knows. Past the
    // application, as its owner.
    await world.owner.begin(async (tx) => {
      await tx`ALTER TABLE event DISABLE TRIGGER append_only`;
      await tx`
        UPDATE event
        SET booked_at = booked_at + interval '1 second'
        WHERE id = (SELECT max(id) FROM event)
      `;
      await tx`ALTER TABLE event ENABLE TRIGGER append_only`;
    });
    await sameAsSql([root!], 'downstream');
    await expect.poll(() => engine.status().state, { timeout: 90_000 }).toBe('ready');
    expect(engine.status().from).toBe('ledger');
    await sameAsSql([root!], 'upstream');
  });

  it('with transactions of another cluster: none is missed or counted twice, and they are made this one’s at the next start', async () => {
    const [root] = await ids();
    await world.owner.begin(async (tx) => {
      await tx`ALTER TABLE event DISABLE TRIGGER append_only`;
      await tx`UPDATE event SET booked_xid = '4000000000000' WHERE id % 2 = 0`;
      await tx`ALTER TABLE event ENABLE TRIGGER append_only`;
    });
    await stopEngine(world.sql);
    await startEngine(world.sql, { url, file: null, threads: 1 }).ready;
    await more(4);
    for (const id of (await ids()).slice(0, 20)) await sameAsSql([id], 'downstream');
    const [{ count }] = await world.owner<
      [{ count: number }]
    >`SELECT count(*)::int AS count FROM event WHERE booked_xid = '4000000000000'`;
    expect(await forgetForeignTransactions(world.owner)).toBe(count);
    expect(await forgetForeignTransactions(world.owner)).toBe(0);
    await sameAsSql([root!], 'downstream');
  });
});

describe('it gives way and comes back', () => {
  it('is packed anew when much was added, while it goes on answering', async () => {
    await stopEngine(world.sql);
    const { engine, ready } = startEngine(world.sql, { url, file: null, threads: 2, most: 30 });
    await ready;
    const [root] = await ids();
    for (let n = 0; n < 6; n++) {
      await more(4);
      await sameAsSql([root!], 'downstream');
    }
    await expect.poll(() => engine.status().packing, { timeout: 90_000 }).toBe(false);
    expect(engine.status().added).toBeLessThan(200);
    for (const id of await ids()) await sameAsSql([id], id % 2 ? 'upstream' : 'downstream');
  });

  it('a reader that dies costs no answer, and another takes its place', async () => {
    const engine = engineOf(world.sql)!,
      [root] = await ids();
    const readers = (
      engine as unknown as { readers: { worker: { terminate(): Promise<number> } }[] }
    ).readers;
    const asked = traceMarks(world.sql, [root!], 'downstream');
    await Promise.all([...readers].map((reader) => reader.worker.terminate()));
    expect(settled(await asked)).toEqual(
      settled(await traceBySql(world.sql, [root!], 'downstream'))
    );
    await sameAsSql([root!], 'upstream');
    await expect
      .poll(
        async () =>
          (
            await world.sql.begin((tx) =>
              engine.ask(tx, {
                about: 'trace',
                roots: [root!],
                direction: 'upstream',
                cut: {},
                want: 'marks'
              })
            )
          ).reply,
        { timeout: 90_000 }
      )
      .toBeTruthy();
    await expect.poll(() => engine.status().readers, { timeout: 90_000 }).toBe(2);
  });

  it('a ledger larger than it may be is left to the database', async () => {
    await stopEngine(world.sql);
    const { engine, ready } = startEngine(world.sql, { url, file: null, limit: 1000 });
    await ready;
    expect(engine.status()).toMatchObject({ state: 'off' });
    expect(engine.status().reason).toMatch(/MB are allowed/);
    await expect(
      world.sql.begin((tx) =>
        engine.ask(tx, {
          about: 'trace',
          roots: [1],
          direction: 'upstream',
          cut: {},
          want: 'marks'
        })
      )
    ).rejects.toBeInstanceOf(NoIndex);
    const [root] = await ids();
    await sameAsSql([root!], 'downstream');
  });

  it('that has grown too large is not packed anew at every trace', async () => {
    await stopEngine(world.sql);
    const { engine, ready } = startEngine(world.sql, { url, file: null, threads: 1, most: 10 });
    await ready;
    let packings = 0;
    // The ledger has grown beyond what it may take: packing it anew fails from now on.
    const inside = engine as unknown as { load: () => Promise<void>; limit: number };
    inside.load = async () => {
      packings++;
      throw new Error('The index takes 2 MB; 1 MB are allowed.');
    };
    const [root] = await ids();
    for (let n = 0; n < 8; n++) {
      await more(4);
      await sameAsSql([root!], 'downstream');
    }
    expect(packings).toBeGreaterThan(0);
    expect(packings).toBeLessThan(5);
    expect(engine.status().state).toBe('ready');
  });

  it('whose readers cannot start gives up and leaves traces to the database', async () => {
    await stopEngine(world.sql);
    const { engine, ready } = startEngine(world.sql, { url, file: null, threads: 1 });
    await ready;
    // Threads from here on have no file to run.
    process.env.EARMARK_THREADS = '/nowhere';
    try {
      const { readers } = engine as unknown as {
        readers: { worker: { terminate(): Promise<number> } }[];
      };
      await readers[0]!.worker.terminate();
      await expect.poll(() => engine.status().state, { timeout: 90_000 }).toBe('off');
      expect(engine.status().reason).toMatch(/do not stay alive/);
      const [root] = await ids();
      await sameAsSql([root!], 'downstream');
    } finally {
      delete process.env.EARMARK_THREADS;
    }
  });
});

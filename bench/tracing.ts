import { rmSync } from 'node:fs';
import { arraysOf } from '../src/lib/core/trace/packed/packed-ledger.ts';
import { connect } from '../src/lib/server/kernel/db/client.ts';
import { migrate, migrationsIn } from '../src/lib/server/kernel/db/migrate.ts';
import { readCommonSources } from '../src/lib/server/trace/common-source.ts';
import { traceFigures, traceJson } from '../src/lib/server/trace/trace.ts';
import { reach } from '../src/lib/server/trace/read-graph.ts';
import { engineOf, startEngine, stopEngine } from '../src/lib/server/trace/engine/engines.ts';
import { copyRows } from '../src/lib/server/trace/engine/copy-rows.ts';
import { readIndexFile } from '../src/lib/server/trace/engine/index-file.ts';
import { LEDGER_QUERIES } from '../src/lib/server/trace/engine/load-ledger.ts';
import type { Bench } from './bench.ts';
import { withDatabase } from '../src/lib/server/testing/template.ts';
import { compare, measured, timed, type Measured } from './measure.ts';
import { generateWorld, MIGRATIONS, PER_SUBLOT } from './world.ts';

/** Fetching the rows of a trace by key, as whoever knew them all already would. */
async function byKey(
  bench: Bench,
  root: number
): Promise<{ size: number; fetch: () => Promise<unknown> }> {
  const { app } = bench;
  const { marks, transformations } = await reach(app, root, 'downstream');
  const events = (
    await app<
      { id: number }[]
    >`SELECT DISTINCT event_id AS id FROM movement WHERE mark_id = ANY(${marks})`
  ).map((row) => row.id);
  return {
    size: marks.length,
    fetch: () =>
      app.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', async (tx) => {
        await tx`
          SELECT m.id, m.product_id, m.kind, m.number, m.lot_id, m.supplier_number, m.expires_on,
            m.state
          FROM mark m
          WHERE m.id = ANY(${marks})
        `;
        await tx`SELECT id, event_id FROM transformation WHERE id = ANY(${transformations})`;
        await tx`
          SELECT transformation_id, mark_id, quantity
          FROM transformation_input
          WHERE transformation_id = ANY(${transformations})
        `;
        await tx`
          SELECT transformation_id, mark_id, quantity, share
          FROM transformation_output
          WHERE transformation_id = ANY(${transformations})
        `;
        await tx`
          SELECT event_id, mark_id, place_id, quantity FROM movement WHERE mark_id = ANY(${marks})
        `;
        await tx`
          SELECT id, kind, document, partner_id, happened_at FROM event WHERE id = ANY(${events})
        `;
        await tx`
          SELECT mark_id, place_id, quantity
          FROM stock
          WHERE mark_id = ANY(${marks}) AND quantity > 0
        `;
      })
  };
}

/** Starts the index of the bench's world, once. */
export async function withIndex(bench: Bench): Promise<void> {
  if (engineOf(bench.app)) return;
  await startEngine(bench.app, {
    url: bench.appUrl,
    file: bench.indexFile,
    limit: 4096 * 1_048_576
  }).ready;
  const status = engineOf(bench.app)!.status();
  if (status.state !== 'ready') throw new Error(`The index is off: ${status.reason}`);
}

/**
 * A trace to its figures (levels, ends, balance, content), the index brought up to date first,
 * against fetching the same rows by key.
 */
export async function figures(bench: Bench, name: string, root: number): Promise<Measured> {
  await withIndex(bench);
  const { size, fetch } = await byKey(bench, root);
  return compare(
    name,
    size,
    async () => {
      if ((await traceFigures(bench.app, [root], 'downstream'))!.marks.length !== size)
        throw new Error('The trace is not what it should be.');
    },
    fetch,
    size < 5000 ? 41 : 9
  );
}

/** The API's whole answer as JSON text, against fetching the same rows by key. */
export async function json(bench: Bench): Promise<Measured> {
  await withIndex(bench);
  const { size, fetch } = await byKey(bench, bench.world.hub);
  return compare(
    'trace-json-50k',
    size,
    async () => {
      if ((await traceJson(bench.app, [bench.world.hub], 'downstream'))!.length < 4)
        throw new Error('The answer is not what it should be.');
    },
    fetch
  );
}

/** The same question, a thousand marks, of this world and of one of 100,000 links. */
export async function growth(bench: Bench): Promise<Measured> {
  await withIndex(bench);
  const { owner } = bench;
  await owner`CREATE DATABASE earmark_small`;
  const at = (url: string) => withDatabase(url, 'earmark_small');
  const small = connect(at(bench.ownerUrl), { max: 2 }),
    app = connect(at(bench.appUrl), { max: 4, role: 'earmark_app' });
  try {
    await migrate(small, migrationsIn(MIGRATIONS));
    const world = await generateWorld(small, 100_000);
    await startEngine(app, { url: at(bench.appUrl), file: null }).ready;
    const ask = async (sql: typeof app, root: number) => {
      if ((await traceFigures(sql, [root], 'downstream'))!.marks.length !== PER_SUBLOT + 2)
        throw new Error('The trace is not what it should be.');
    };
    return await compare(
      'trace-growth',
      PER_SUBLOT + 2,
      () => ask(bench.app, bench.world.small),
      () => ask(app, world.small),
      61
    );
  } finally {
    await stopEngine(app);
    await app.end();
    await small.end();
    await owner`DROP DATABASE earmark_small WITH (FORCE)`;
  }
}

/** Copies every row of the ledger out of the database, and does nothing with them. */
export const readAllRows = (app: Bench['app']): Promise<unknown> =>
  app.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', async (tx) => {
    for (const query of Object.values(LEDGER_QUERIES)) await copyRows(tx, query, () => {});
  });

/**
 * Opening the index that was kept, until it can be asked, against only reading the ledger's rows.
 */
export async function start(bench: Bench): Promise<Measured> {
  await withIndex(bench);
  const reading = () => readAllRows(bench.app);
  const file = `${bench.indexFile}`;
  if (!readIndexFile(file)) throw new Error('No index was kept.');
  return await compare(
    'index-start',
    bench.world.links,
    async () => {
      await stopEngine(bench.app);
      await startEngine(bench.app, { url: bench.appUrl, file, limit: 4096 * 1_048_576 }).ready;
      if (engineOf(bench.app)!.status().from !== 'file')
        throw new Error('It did not start from its file.');
    },
    reading,
    3
  );
}

/** Bytes of the index for each link, against none: no ratio of times. */
export async function bytes(bench: Bench): Promise<Measured> {
  await withIndex(bench);
  const { bytes: all } = engineOf(bench.app)!.status();
  const parts = arraysOf(readIndexFile(bench.indexFile)!.ledger).map(
    ([name, array]) => `${name} ${(array.byteLength / bench.world.links).toFixed(1)}`
  );
  console.log(`               bytes a link: ${parts.join(', ')}`);
  return {
    name: 'index-bytes',
    ratio: Math.round((all / bench.world.links) * 100) / 100,
    ours: all,
    theirs: bench.world.links,
    unit: 'bytes',
    size: bench.world.links
  };
}

/**
 * What thirty units in trouble share, beside all units shipped, against one trace of 50,000 marks
 * to its figures.
 */
export async function commonSource(bench: Bench): Promise<Measured> {
  await withIndex(bench);
  const { app, world } = bench;
  // Twenty of one sub-lot, ten from anywhere.
  const troubled = (
    await app<{ id: number }[]>`
      (SELECT m.id FROM mark m JOIN product p ON p.id = m.product_id WHERE p.code = 'UNIT' AND m.number LIKE 'UNIT-3-%' ORDER BY m.id LIMIT 20) UNION ALL (
        SELECT m.id
        FROM mark m
          JOIN product p ON p.id = m.product_id
        WHERE p.code = 'UNIT' AND m.number LIKE 'UNIT-%-77'
        ORDER BY m.id
        LIMIT 10
      )
    `
  ).map((row) => row.id);
  return await compare(
    'common-source-1m',
    world.shipped,
    async () => {
      const found = await readCommonSources(app, troubled, 'shipped');
      if (found.standsOut < 1 || found.population < world.shipped)
        throw new Error('The common source was not found.');
    },
    () => traceFigures(app, [world.hub], 'downstream'),
    9
  );
}

/** Time the ledger takes to be packed anew, for the documents: not against anything. */
export async function packAnew(bench: Bench): Promise<Measured> {
  await stopEngine(bench.app);
  rmSync(bench.indexFile, { force: true });
  const ms = await timed(() => withIndex(bench));
  return measured('index-packed', bench.world.links, ms, ms);
}

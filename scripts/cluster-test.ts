// `npm run cluster:test`: brings deploy/cluster up on this machine (root only), has people book, breaks
// one thing after the other under them, and proves that what was acknowledged stands, once and whole.
// Exits 1 where it does not.
//   --kills N       how often the primary is killed (5); all other failures are made once
//   --clients N     how many book at a time (16)
//   --only WORDS    only failures whose name has these words; several with commas between
//   --folder DIR    where it may write; emptied first (/tmp/earmark-cluster)
import { parseArgs } from 'node:util';
import { setTimeout as pause } from 'node:timers/promises';
import { median } from '../bench/measure.ts';
import { onDatabase } from './on-database.ts';
import { FAILURES, PRIMARY_KILLED, type Failure } from './standing/failures.ts';
import { judge, readLedger } from './standing/judge.ts';
import {
  beginLoad,
  longestSilence,
  MOVEMENTS_EACH,
  prepareLoad,
  type Load
} from './standing/load.ts';
import type { LedgerMachine } from './standing/machines.ts';
import { FRONT, ownerUrl } from './standing/programs.ts';
import type { Stand } from './standing/stand.ts';
import { watchStandstill } from './standing/standstill.ts';
import { withStand } from './standing/with-stand.ts';
import { wholeOption } from './whole-option.ts';

const { values } = parseArgs({
  options: {
    kills: { type: 'string', default: '5' },
    clients: { type: 'string', default: '16' },
    only: { type: 'string', default: '' },
    folder: { type: 'string', default: '/tmp/earmark-cluster' }
  }
});
/** Bookings must go on within so many seconds; the aim is 15 in the middle. */
const MOST_SECONDS = 90;
/** Bookings go on for so long before the next thing breaks. */
const BETWEEN_MS = 2_000;
/** What is broken stays so for a while after bookings go on. */
const BROKEN_MS = 3_000;
/** Room of each PostgreSQL: one of them is filled. */
const DISK_MB = 1_500;

const kills = wholeOption('kills', values.kills, 1, 1000);
const clients = wholeOption('clients', values.clients, 1, 1000);
const only = values.only.split(',');
const planned = FAILURES.flatMap((failure): Failure[] =>
  failure === PRIMARY_KILLED ? Array.from({ length: kills }, () => failure) : [failure]
).filter(({ name }) => only.some((words) => name.includes(words)));
if (planned.length === 0) {
  console.error(
    `No failure is named “${values.only}”. There are: ${FAILURES.map(({ name }) => name).join('; ')}.`
  );
  process.exit(2);
}

/**
 * Breaks one thing, waits until bookings go on, and mends it.
 * @returns for how many seconds nobody was answered
 */
async function make(failure: Failure, stand: Stand, load: Load): Promise<number> {
  const primary = await stand.well();
  await pause(BETWEEN_MS);
  const mend = await failure.breaks(stand, primary);
  const moment = Date.now();
  try {
    const seconds = await load.firstAfter(moment, MOST_SECONDS);
    await pause(failure.lastsMs ?? BROKEN_MS);
    return Math.max(seconds, longestSilence(load.acknowledged, moment, Date.now()));
  } finally {
    mend?.();
  }
}

function tell(taken: ReadonlyMap<string, number[]>): void {
  const width = Math.max(...[...taken.keys()].map(({ length }) => length));
  console.log(`\n${'what broke'.padEnd(width)} times  median s   longest s`);
  for (const [name, seconds] of taken) {
    const figures = [seconds.length, median(seconds).toFixed(1), Math.max(...seconds).toFixed(1)];
    console.log(
      `${name.padEnd(width)} ${figures.map((one) => String(one).padStart(5)).join('      ')}`
    );
  }
}

/** A figure the machine itself spoilt is told and not counted. */
const sayStood = (seconds: number): string =>
  seconds === 0
    ? ''
    : ` (not counted: this machine itself stood still for ${seconds.toFixed(0)} s)`;

/**
 * Breaks what is planned, one after the other. Where one is not mended in time it ends there: what
 * was acknowledged until then is judged all the same.
 * @returns how long nobody was answered, by what broke, and the primary; null where it ended early
 */
async function breakAll(
  stand: Stand,
  load: Load
): Promise<{ taken: ReadonlyMap<string, number[]>; primary: LedgerMachine | null }> {
  const taken = new Map<string, number[]>();
  try {
    for (const [at, failure] of planned.entries()) {
      const standstill = watchStandstill();
      const seconds = await make(failure, stand, load);
      const stood = standstill();
      if (stood === 0) taken.set(failure.name, [...(taken.get(failure.name) ?? []), seconds]);
      console.log(
        `${at + 1} of ${planned.length}: ${failure.name}: nobody was answered for ${seconds.toFixed(1)} s${sayStood(stood)}`
      );
    }
    return { taken, primary: await stand.well() };
  } catch (error) {
    console.error(`It ends here: ${(error as Error).message}`);
    return { taken, primary: null };
  }
}

/** Compares what was acknowledged with what stands. @returns whether it is the same */
async function judgeAll(stand: Stand, load: Load): Promise<boolean> {
  const { stands, breaks } = await onDatabase(ownerUrl(stand.secrets), readLedger);
  const { lost, doubled, half } = judge(load.acknowledged, stands, MOVEMENTS_EACH);
  const again = load.acknowledged.filter(({ attempts }) => attempts > 1).length;
  console.log(`
${load.acknowledged.length} bookings were acknowledged (${again} after being sent again): ${lost.length} lost, ${doubled.length} doubled, ${half.length} half.
The ledger reconciles with ${breaks} breaks; ${load.refused.length} bookings were refused.`);
  for (const line of [...lost, ...doubled, ...half, ...load.refused].slice(0, 20))
    console.log(line);
  return [lost, doubled, half, load.refused].every((wrong) => wrong.length === 0) && breaks === 0;
}

async function test(stand: Stand): Promise<boolean> {
  await prepareLoad(FRONT, stand.secrets.token);
  const load = beginLoad(FRONT, stand.secrets.token, clients);
  const { taken, primary } = await breakAll(stand, load);
  await load.end();
  if (taken.size > 0) tell(taken);
  const isSame = await judgeAll(stand, load);
  if (primary === null) return false;
  console.log(
    stand.backrest(primary, 'backup', '--type=full') || 'A backup of the primary was taken.'
  );
  return isSame;
}

const options = {
  tell: (line: string): void => console.log(line),
  diskMb: DISK_MB,
  interruptedCode: 1
};
await withStand(values.folder, options, async (stand) => ((await test(stand)) ? 0 : 1));

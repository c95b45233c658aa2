import { statfs } from 'node:fs/promises';
import { resolve } from 'node:path';
import type { Standing } from '../../core/operating/troubles.ts';
import type { Sql } from '../kernel/db/client.ts';
import { MOST_TRIES } from '../service/deliver.ts';
import { engineOf } from '../trace/engine/engines.ts';
import { readBackupState } from './backup-state.ts';

/** How the parts stand that run by themselves, by now. */
export async function readStanding(sql: Sql): Promise<Standing> {
  const asked = Date.now();
  const [[row], disk] = await Promise.all([readDatabase(sql), readDisk()]);
  const answered = Date.now();
  const index = engineOf(sql)?.status();
  return {
    disk,
    // The database was asked somewhere between.
    clockAheadMs: row.now - (asked + answered) / 2,
    bookedAheadMs: row.bookedAheadMs ?? 0,
    sealWaitsMs: process.env.EARMARK_SEAL_KEY ? row.sealWaitsMs : null,
    index: index ? { state: index.state, reason: index.reason } : null,
    mailsGivenUp: row.mailsGivenUp,
    backups: await readBackups(row.ledgerAgeMs)
  };
}

/** Of our own database only: scripts/start.mjs says that it is. */
async function readBackups(ledgerAgeMs: number | null): Promise<Standing['backups']> {
  if (!process.env.EARMARK_OWN_DATABASE) return null;
  const state = await readBackupState(dataFolder());
  const ago = (at: string | null | undefined): number | null =>
    at ? Date.now() - Date.parse(at) : null;
  return {
    state,
    ledgerAgeMs,
    backedUpMsAgo: ago(state?.backedUpAt),
    checkedMsAgo: ago(state?.checkedAt)
  };
}

const dataFolder = (): string => resolve(process.env.EARMARK_DATA ?? '.data');

interface Told {
  now: number;
  bookedAheadMs: number | null;
  sealWaitsMs: number | null;
  mailsGivenUp: number;
  ledgerAgeMs: number | null;
}

/** What is sealed is sealed in the order of ids, but for what commits late: the last few are looked at. */
const readDatabase = (sql: Sql) => sql<[Told]>`
  WITH latest AS (
    SELECT id, booked_at FROM event ORDER BY id DESC LIMIT 1000
  )
  SELECT (extract(epoch FROM clock_timestamp()) * 1000)::float8 AS now,
    (extract(epoch FROM max(booked_at) - clock_timestamp()) * 1000)::float8 AS "bookedAheadMs",
    (
      SELECT (extract(epoch FROM clock_timestamp() - min(l.booked_at)) * 1000)::float8
      FROM latest l
      WHERE NOT EXISTS (SELECT FROM seal_leaf s WHERE s.event_id = l.id)
    ) AS "sealWaitsMs",
    (
      SELECT count(*)::int
      FROM (
        SELECT d.message_id
        FROM service_delivery d
        GROUP BY d.message_id
        HAVING count(*) >= ${MOST_TRIES} AND bool_and(d.refused IS NOT NULL)
          AND max(d.at) > clock_timestamp() - interval '7 days'
      ) given_up
    ) AS "mailsGivenUp",
    (
      SELECT (extract(epoch FROM clock_timestamp() - f.booked_at) * 1000)::float8
      FROM event f
      ORDER BY f.id
      LIMIT 1
    ) AS "ledgerAgeMs"
  FROM latest
`;

/** Of the disk of the data folder; null where that is not this machine's to ask. */
async function readDisk(): Promise<Standing['disk']> {
  try {
    const { bavail, blocks, bsize } = await statfs(dataFolder());
    return { free: bavail * bsize, whole: blocks * bsize };
  } catch {
    return null;
  }
}

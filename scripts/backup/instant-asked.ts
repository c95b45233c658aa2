import { readDay } from '../../src/lib/core/calendar/read-day.ts';
import { Plain } from '../machine.mjs';
import type { Backup } from './repository.ts';

const EXAMPLE = '"2026-11-20 14:00"';
/** A day, a time with or without seconds, and a zone where it is not the machine's own. */
const INSTANT = /^\d{4}-\d\d-\d\d[ T]\d\d:\d\d(:\d\d)?( ?(Z|[+-]\d\d:?\d\d))?$/;

/**
 * The instant a database is to be brought back to.
 * @param text as `2026-11-20 14:00`, of the machine's own zone where none is named; undefined for
 * all there is
 * @param backups oldest first; at least one
 * @returns null for all there is
 * @throws Plain where it cannot be read, or lies where no backup reaches
 */
export function instantAsked(
  text: string | undefined,
  backups: readonly Pick<Backup, 'endedAt'>[],
  now: Date
): Date | null {
  const [oldest] = backups;
  if (!oldest) throw new Plain('No backup was taken yet: there is nothing to bring back.');
  if (text === undefined) return null;
  const at = readInstant(text.trim());
  if (!at) throw new Plain(`--at is "${text}"; it must be a day and a time, as ${EXAMPLE}.`);
  if (at > now) throw new Plain(`--at is ${at.toISOString()}, which is still to come.`);
  if (at.getTime() < oldest.endedAt)
    throw new Plain(
      `--at is ${at.toISOString()}; the oldest backup ended at ${new Date(oldest.endedAt).toISOString()}, and nothing is known from before it.`
    );
  return at;
}

/** Null where it is none, or is of a day there never was. */
function readInstant(text: string): Date | null {
  if (!INSTANT.test(text) || readDay(text.slice(0, 10)) === null) return null;
  const at = new Date(text.replace(' ', 'T').replace(' ', ''));
  return Number.isNaN(at.getTime()) ? null : at;
}

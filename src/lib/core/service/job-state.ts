/** Where a service job stands, in the order of the work; the last two are its ends. */
export const JOB_STATES = [
  'waiting for unit',
  'to look at',
  'waiting for customer',
  'waiting for parts',
  'in work',
  'to test',
  'ready',
  'sent back',
  'ended'
] as const;
export type JobState = (typeof JOB_STATES)[number];

/** The states a job is worked on in. */
export const OPEN_STATES = JOB_STATES.slice(0, 7);

export const isOver = (state: JobState): boolean => state === 'sent back' || state === 'ended';

/** What may come next is refused with why, as a whole sentence. */
export type Turn = { ok: true } | { ok: false; why: string };

const may: Turn = { ok: true };
const no = (why: string): Turn => ({ ok: false, why });

/**
 * Whether a job may be turned by hand. A unit comes in and leaves by a booking, so neither is said
 * by a turn; between the two the work goes to and fro as it must.
 * @param note what is said with it; ending a job says why
 */
export function turnOf(from: JobState, to: JobState, note: string): Turn {
  if (isOver(from)) return no(`The job is ${from}. Open another for this unit.`);
  if (from === to) return no(`The job stands at “${to}” already.`);
  if (to === 'sent back') return no('Send the unit back: that books it, and ends the job.');
  if (to === 'ended')
    return note.trim() === '' ? no('Say why the job ends without sending the unit back.') : may;
  if (from === 'waiting for unit') return no('The unit is not here yet. Take it in first.');
  if (to === 'waiting for unit') return no('The unit is here already. Send it back instead.');
  return may;
}

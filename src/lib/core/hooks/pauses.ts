const SECOND = 1_000,
  MINUTE = 60 * SECOND,
  HOUR = 60 * MINUTE;

/** Growing pauses before each further try: about three days in all, as Standard Webhooks proposes. */
const PAUSES_MS = [
  5 * SECOND,
  5 * MINUTE,
  30 * MINUTE,
  2 * HOUR,
  5 * HOUR,
  10 * HOUR,
  14 * HOUR,
  20 * HOUR,
  24 * HOUR
];

/** How long to wait after so many tries that failed; null where it is given up. */
export const pauseAfter = (tries: number): number | null => PAUSES_MS[tries - 1] ?? null;

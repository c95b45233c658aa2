import { inTurns } from '../kernel/in-turns.ts';
import { inTurn } from '../../core/in-turn.ts';

/** Passwords of one address that may wait to be looked at. */
const MOST_WAITING = 20;
/** Looked at beside each other, whoever asks: more would take the threads that read files, too. */
const AT_ONCE = 2;

/** Too many passwords wait to be looked at. */
export class TooManyHashes extends Error {}

type Turn = ReturnType<typeof inTurns>;
const byAddress = new Map<string, { turn: Turn; asked: number }>();
const lanes = Array.from({ length: AT_ONCE }, () => ({ turn: inTurn(), asked: 0 }));

/**
 * Has passwords looked at, which takes a tenth of a second each: those of one address one after the
 * other, so that hundreds sent at once keep nobody else waiting.
 * @throws TooManyHashes where more of the address wait than may
 */
export async function hashInTurn<T>(address: string, look: () => Promise<T>): Promise<T> {
  const own = byAddress.get(address) ?? {
    turn: inTurns(MOST_WAITING, () => new TooManyHashes()),
    asked: 0
  };
  byAddress.set(address, own);
  own.asked++;
  try {
    return await own.turn(() => inLane(look));
  } finally {
    if (--own.asked === 0) byAddress.delete(address);
  }
}

async function inLane<T>(look: () => Promise<T>): Promise<T> {
  const lane = lanes.reduce((least, one) => (one.asked < least.asked ? one : least));
  lane.asked++;
  try {
    return await lane.turn(look);
  } finally {
    lane.asked--;
  }
}

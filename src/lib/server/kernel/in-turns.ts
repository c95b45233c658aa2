import { inTurn } from '../../core/in-turn.ts';

/**
 * Works one after the other, in the order they were asked for, while no more than so many wait.
 * @param mostWaiting how many may wait beside the one that is worked on
 * @param tooMany what is thrown where more do
 */
export function inTurns(
  mostWaiting: number,
  tooMany: () => Error
): <T>(work: () => Promise<T>) => Promise<T> {
  const turn = inTurn();
  let asked = 0;
  return async (work) => {
    if (asked > mostWaiting) throw tooMany();
    asked++;
    try {
      return await turn(work);
    } finally {
      asked--;
    }
  };
}

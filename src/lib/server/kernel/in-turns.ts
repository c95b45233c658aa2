/**
 * Works one after the other, in the order they were asked for, while no more than so many wait.
 * @param mostWaiting how many may wait beside the one that is worked on
 * @param tooMany what is thrown where more do
 */
export function inTurns(
  mostWaiting: number,
  tooMany: () => Error
): <T>(work: () => Promise<T>) => Promise<T> {
  let last: Promise<unknown> = Promise.resolve();
  let asked = 0;
  return async (work) => {
    if (asked > mostWaiting) throw tooMany();
    asked++;
    const mine = last.then(work, work);
    last = mine;
    try {
      return await mine;
    } finally {
      asked--;
    }
  };
}

/**
 * Works one after the other, in the order they were asked for; one that fails does not keep the
 * next from its turn.
 * @returns a function that takes the next work and answers what comes of it
 */
export function inTurn(): <T>(work: () => Promise<T>) => Promise<T> {
  let last: Promise<unknown> = Promise.resolve();
  return (work) => {
    const turn = last.then(work, work);
    last = turn;
    return turn;
  };
}

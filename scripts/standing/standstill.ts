/** A clock that is put right by less is only kept right. */
const LEAST_MS = 2_000;

/** How far the clock of the day is before the one that only counts while the machine runs. */
const aheadMs = (): number => Date.now() - performance.now();

/**
 * Watches whether the machine itself stands still, as a virtual one does that is moved or kept: then
 * nobody is answered, whatever was broken, and afterwards its clock is put forward. A process that is
 * only busy is none.
 * @returns asked, for how many seconds it stood still since; 0 where it did not
 */
export function watchStandstill(): () => number {
  const before = aheadMs();
  return () => {
    const stood = aheadMs() - before;
    return stood < LEAST_MS ? 0 : stood / 1000;
  };
}

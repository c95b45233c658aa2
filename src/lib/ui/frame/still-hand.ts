/** A hand that did nothing for so long is not on its way to what is shown now. */
const STILL_MS = 1_200;

let lastMoved = 0;
const moved = (): void => {
  lastMoved = performance.now();
};
const SIGNS = ['pointermove', 'pointerdown', 'keydown', 'wheel', 'touchmove'] as const;

/** Begins to look at the hand. @returns ends it */
export function watchHand(): () => void {
  for (const sign of SIGNS) addEventListener(sign, moved, { passive: true, capture: true });
  return () => {
    for (const sign of SIGNS) removeEventListener(sign, moved, { capture: true });
  };
}

/** So long until nothing has been touched for a while; 0 where that is so now. */
export const untilStill = (): number =>
  lastMoved === 0 ? 0 : Math.max(0, STILL_MS - (performance.now() - lastMoved));

/** Out of view for so many looks: one that only blurred for a moment has not been away. */
const LOOKS_AWAY = 8;

/**
 * A camera sees the same symbol at every look: it counts once for as long as it stays in view. What
 * is counted is looks and not time: on a slow device they are seconds apart.
 * @returns whether what a look saw counts; given null where it saw nothing
 */
export function onceInView(): (text: string | null) => boolean {
  const missed = new Map<string, number>();
  return (text) => {
    const isNew = text !== null && !missed.has(text);
    for (const [known, looks] of missed) {
      if (looks + 1 >= LOOKS_AWAY) missed.delete(known);
      else missed.set(known, looks + 1);
    }
    if (text !== null) missed.set(text, 0);
    return isNew;
  };
}

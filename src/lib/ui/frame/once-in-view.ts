/** A symbol that left the view for so long is meant anew. */
const AWAY_MS = 1_500;

/**
 * A camera sees the same symbol many times a second: it counts once for as long as it stays in view.
 * @returns whether a text that is seen now counts; given the instant in milliseconds
 */
export function onceInView(): (text: string, now: number) => boolean {
  const last = new Map<string, number>();
  return (text, now) => {
    for (const [old, at] of last) if (now - at > AWAY_MS) last.delete(old);
    const isNew = !last.has(text);
    last.set(text, now);
    return isNew;
  };
}

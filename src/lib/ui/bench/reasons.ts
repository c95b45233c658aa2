/** The reasons that were written, as a booking takes them; nothing where none was. */
export function reasonsGiven(reasons: Readonly<Record<string, string>>): {
  reasons?: Record<string, string>;
} {
  const given = Object.entries(reasons).filter(([, reason]) => reason.trim() !== '');
  return given.length > 0 ? { reasons: Object.fromEntries(given) } : {};
}

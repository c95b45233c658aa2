/**
 * A whole number as a body takes it: null where nothing was typed. What is no number goes as it was
 * typed, so that it is refused by name and never taken for nothing.
 */
export function typedWhole(text: string): number | string | null {
  const typed = text.trim();
  if (typed === '') return null;
  return /^\d{1,15}$/.test(typed) ? Number(typed) : typed;
}

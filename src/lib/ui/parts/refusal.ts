import type { Refusal } from '../frame/api.ts';

/** What a refusal says of one field of a form; '' where nothing. */
export const fieldError = (refusal: Refusal | null, ...paths: string[]): string =>
  refusal?.errors
    .filter((error) => paths.includes(error.path))
    .map((error) => error.message)
    .join(' ') ?? '';

/** What it says beside that. */
export const otherErrors = (refusal: Refusal | null, known: readonly string[]): string[] =>
  !refusal
    ? []
    : refusal.errors.length === 0
      ? [refusal.title]
      : refusal.errors
          .filter((error) => !known.includes(error.path))
          .map((error) => (error.path ? `${error.path}: ${error.message}` : error.message));

import type { MarkState } from '../../core/catalogue/marking.ts';

/** Why an act somebody came to a number for is not asked, in words. */
export function notBegunAs(act: string, state: MarkState): string {
  if (act === 'hold' && state === 'held') return 'It is held already.';
  if (act === 'release' && state !== 'held') return 'It is not held: there is nothing to release.';
  return 'What you came to do cannot be done with it; what can be done stands above.';
}

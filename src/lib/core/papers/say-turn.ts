import type { Language } from './language.ts';
import { wordsIn } from './words.ts';
import type { JobState } from '../service/job-state.ts';

/** What a message to a customer is of. */
export interface ToldTurn {
  state: JobState;
  number: string;
  product: string;
  serial: string;
  from: string;
  /** As it is typed on the public page; null where there is none. */
  tracking: string | null;
}

/** A message that tells of a turn, in the language its customer reads. */
export function sayTurn(turn: ToldTurn, language: Language): { subject: string; body: string } {
  const words = wordsIn(language).turn;
  const state = words.states[turn.state];
  const lines = [
    words.says(`${turn.product} ${turn.serial}`, turn.number, state),
    ...(turn.tracking === null ? [] : [words.tracking(turn.tracking)]),
    turn.from
  ];
  return { subject: `${turn.number}: ${state}`, body: lines.join('\n\n') };
}

import type { JobState } from './job-state.ts';

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

const SAYS: Record<JobState, string> = {
  'waiting for unit': 'we wait for it to reach us',
  'to look at': 'it has reached us and will be looked at',
  'waiting for customer': 'we need your word before we go on',
  'waiting for parts': 'we wait for parts',
  'in work': 'it is being worked on',
  'to test': 'it is being tested',
  ready: 'it is ready',
  'sent back': 'it is on its way back to you',
  ended: 'the job has ended'
};

/** Where a job stands, for the customer and the public page. */
export const sayState = (state: JobState): string => SAYS[state];

/** A message that tells of a turn. */
export function sayTurn(turn: ToldTurn): { subject: string; body: string } {
  const unit = `${turn.product} ${turn.serial}`;
  const lines = [
    `Of your ${unit}, our job ${turn.number}: ${sayState(turn.state)}.`,
    ...(turn.tracking === null ? [] : [`Tracking number ${turn.tracking}.`]),
    turn.from
  ];
  return { subject: `${turn.number}: ${sayState(turn.state)}`, body: lines.join('\n\n') };
}

import type { JobState } from './job-state.ts';

/** Where a job stands, for its customer; other languages stand with the papers' (core/papers). */
export const STATES_IN_ENGLISH: Readonly<Record<JobState, string>> = {
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

/** Where a job stands, on the public page. */
export const sayState = (state: JobState): string => STATES_IN_ENGLISH[state];

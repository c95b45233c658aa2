import type { JobState } from './job-state.ts';

/** A turn of a job, what was found, or what was done. */
export interface JobStep {
  id: number;
  at: string;
  by: string;
  kind: 'state' | 'finding' | 'act';
  state: JobState | null;
  note: string;
  minutes: number | null;
}

/** Something booked in the course of a job. */
export interface JobEvent {
  id: number;
  kind: string;
  at: string;
  who: string;
  takenBack: boolean;
}

/** What a customer was told of a job. */
export interface JobMessage {
  at: string;
  address: string;
  subject: string;
  body: string;
  /** By a mail server, where one is set; else it waits in the outbox. */
  sent: boolean;
  refused: string | null;
}

import type { Fault } from '../../core/faults/fault.ts';
import { Problem } from '../kernel/problem.ts';

/** What a refusal names; a test of something that is refused fails where it is taken. */
export async function caught(run: Promise<unknown>): Promise<Fault[]> {
  try {
    await run;
  } catch (error) {
    if (error instanceof Problem) return [...error.errors] as Fault[];
    throw error;
  }
  throw new Error('It was taken.');
}

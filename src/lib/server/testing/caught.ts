import type { Fault } from '../../core/faults/fault.ts';
import { Problem } from '../kernel/problem.ts';

/** The refusal of something; a test of something that is refused fails where it is taken. */
export async function problemOf(run: Promise<unknown>): Promise<Problem> {
  try {
    await run;
  } catch (error) {
    if (error instanceof Problem) return error;
    throw error;
  }
  throw new Error('It was taken.');
}

/** What a refusal names. */
export const caught = async (run: Promise<unknown>): Promise<Fault[]> => [
  ...((await problemOf(run)).errors as readonly Fault[])
];

/** The same in short: `422 stock.short lines[0]`. */
export async function refusalsOf(run: Promise<unknown>): Promise<string[]> {
  const { status, errors } = await problemOf(run);
  return errors.map((one) => `${status} ${one.code} ${one.path}`);
}

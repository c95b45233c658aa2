import { Problem } from '../kernel/problem.ts';

/** Refuses a scan at picking, in words. @throws Problem 422, always */
export function notPicked(code: string, message: string, number?: string): never {
  throw new Problem(422, 'Not picked', [
    { code, path: 'scan', ...(number ? { number } : {}), message }
  ]);
}

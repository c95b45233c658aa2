import { shown } from '../../core/numbers/number.ts';
import type { Fault } from '../../core/faults/fault.ts';

/** A problem of a request itself, before the trade's faults: its form, its rights, its key. */
export interface FormError {
  code: string;
  path: string;
  number?: string;
  message: string;
}

/**
 * An answer that refuses, as an RFC 9457 problem document. Thrown in the server, turned into a
 * response in one place (http/answer.ts); its words are for people and tell nothing of the machine.
 */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly errors: readonly (Fault | FormError)[] = [],
    readonly detail?: string
  ) {
    super(title);
  }
}

/** @throws Problem 404 saying that there is no such thing */
export function notFound(what: string, code: string): never {
  throw new Problem(404, `There is no such ${what}`, [
    {
      code: `${what}.unknown`,
      path: 'code',
      number: shown(code),
      message: `There is no ${what} ${shown(code)}. Check the code.`
    }
  ]);
}

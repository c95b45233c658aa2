import { Problem } from '../problem.ts';
import { workApart } from '../work-apart.ts';

/** What the thread is asked, and what it answers. */
export interface PaperAsked {
  name: string;
  args: unknown[];
}
export type PaperDrawn = { bytes: Uint8Array } | { failed: string };

const ask = workApart<PaperAsked, PaperDrawn>({
  name: 'papers',
  source: new URL('../../papers-thread.ts', import.meta.url),
  // Of twenty thousand rows a paper takes a quarter of that.
  mostMs: 120_000,
  mostHeapMb: 600,
  mostWaiting: 30,
  tooHeavy: () =>
    new Problem(413, 'The paper is too large', [
      {
        code: 'request.too-large',
        path: '',
        message: 'It takes more time or memory than a paper may. Ask for less of it, or for a file.'
      }
    ]),
  tooMany: {
    title: 'Others come first',
    message: 'Many papers are being made just now. Wait a moment and ask for it again.'
  }
});

/**
 * A paper that is drawn in a thread of its own, one after the other, so that one of thousands of rows
 * holds nobody up but whoever asked for it.
 * @param name as server/papers-thread.ts lists it
 * @param _draw what draws it there; here it only says what goes in
 * @returns draws it apart; throws Problem 413 where it takes too much, 503 where too many wait
 */
export const apart =
  <Args extends unknown[]>(name: string, _draw: (...args: Args) => Promise<Uint8Array>) =>
  async (...args: Args): Promise<Uint8Array> => {
    const said = await ask({ name, args });
    if ('bytes' in said) return said.bytes;
    throw new Error(`Paper ${name}: ${said.failed}`);
  };

import { Problem, type FormError } from './problem.ts';
import { workApart } from './work-apart.ts';

/** What the thread is asked, and what it answers: a refusal goes back as what it says. */
export interface FileAsked {
  name: string;
  args: unknown[];
}
export type FileMade =
  | { answer: unknown }
  | { refused: { status: number; title: string; errors: readonly FormError[]; detail?: string } }
  | { failed: string };

const ask = workApart<FileAsked, FileMade>({
  name: 'files',
  source: new URL('../files-thread.ts', import.meta.url),
  // Two hundred thousand rows take a quarter of that.
  mostMs: 120_000,
  mostHeapMb: 1_000,
  mostWaiting: 30,
  tooHeavy: () =>
    new Problem(413, 'The file is too large', [
      {
        code: 'request.too-large',
        path: '',
        message:
          'It takes more time or memory than a file may. Ask for a shorter period or for less, or send it in parts.'
      }
    ]),
  tooMany: {
    title: 'Others come first',
    message: 'Many files are being made just now. Wait a moment and ask for it again.'
  }
});

/** What of a maker's arguments is asked for: all but the database, which is the thread's own. */
type Asked<Make> = Make extends (db: never, ...args: infer Args) => unknown ? Args : never;
type Answer<Make> = Make extends (...args: never[]) => Promise<infer Made> ? Made : never;

/**
 * A file that is read and written in a thread of its own, with connections of its own, one after the
 * other: of a hundred thousand rows it holds nobody up but whoever asked for it. What makes it is not
 * even loaded here.
 * @param name as the table of the thread has it (server/files-thread.ts)
 * @returns makes it apart; throws what it throws, Problem 413 where it takes too much, 503 where too
 * many wait
 */
export const madeApart =
  <Files, Name extends string & keyof Files>(name: Name) =>
  async (...args: Asked<Files[Name]>): Promise<Answer<Files[Name]>> => {
    const said = await ask({ name, args });
    if ('answer' in said) return said.answer as Answer<Files[Name]>;
    if ('failed' in said) throw new Error(`File ${name}: ${said.failed}`);
    const { status, title, errors, detail } = said.refused;
    throw new Problem(status, title, errors, detail);
  };

import { Problem, type FormError } from './problem.ts';

/**
 * Runs a part of what was asked; what it refuses is told where it stands in what was asked.
 * @param pathIn a path of the part → the path in the whole
 * @param says what cannot be done, where the part would say it of itself
 */
export async function toldAt<T>(
  work: () => Promise<T>,
  pathIn: (path: string) => string,
  says?: { title: string; detail: string }
): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof Problem) || error.status !== 422) throw error;
    const errors: FormError[] = error.errors.map((one) => ({ ...one, path: pathIn(one.path) }));
    const { title, detail } = says ?? error;
    throw new Problem(422, title, errors, detail);
  }
}

import { Plain } from '../machine.mjs';
import { makeReady, standUp, takeDown, type Stand, type StandOptions } from './stand.ts';

/**
 * Brings a stand up, has something done with it and takes it down, also where it fails or is ended by
 * a signal; then the command ends.
 * @param folder where it may write: it is emptied first
 * @param work gives the exit code
 */
export async function withStand(
  folder: string,
  options: StandOptions,
  work: (stand: Stand) => Promise<number>
): Promise<never> {
  const end = (code: number): never => {
    takeDown(folder);
    process.exit(code);
  };
  try {
    makeReady();
    for (const signal of ['SIGINT', 'SIGTERM'] as const)
      process.on(signal, () => end(options.interruptedCode));
    return end(await work(await standUp(folder, options)));
  } catch (error) {
    console.error(error instanceof Plain ? error.message : error);
    return end(1);
  }
}

import type { Db } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';

/**
 * A stand-in for a temperature probe on the dock: a value that somebody sets, unplugged or not. It
 * is in the database, so that every process that serves reads the same. A real probe's driver
 * answers the same functions.
 */
export interface ProbeState {
  celsius: string;
  plugged: boolean;
}

/** What it shows, whether or not it answers. */
export async function probeState(db: Db): Promise<ProbeState> {
  const [state] = await db<[ProbeState]>`SELECT celsius, plugged FROM device_probe`;
  return state;
}

/** Sets what it shows from now on. */
export async function setProbe(db: Db, { celsius, plugged }: ProbeState): Promise<ProbeState> {
  await db`UPDATE device_probe SET celsius = ${celsius}, plugged = ${plugged}`;
  return { celsius, plugged };
}

/** The reading now. @throws Problem 503 where the probe does not answer */
export async function readProbe(db: Db): Promise<{ celsius: string }> {
  const { celsius, plugged } = await probeState(db);
  if (!plugged)
    throw new Problem(503, 'The probe does not answer', [
      {
        code: 'device.silent',
        path: '',
        message:
          'The temperature probe does not answer. Plug it in and read it again, or type the temperature.'
      }
    ]);
  return { celsius };
}

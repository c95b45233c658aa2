import { Problem } from '../kernel/problem.ts';

/**
 * A stand-in for a temperature probe on the dock: a value that somebody sets, unplugged or not. A
 * real probe's driver answers the same two functions.
 */
export interface ProbeState {
  celsius: string;
  plugged: boolean;
}

let state: ProbeState = { celsius: '4.5', plugged: true };

export const probeState = (): ProbeState => state;
export const setProbe = (next: ProbeState): ProbeState => (state = next);

/** The reading now. @throws Problem 503 where the probe does not answer */
export function readProbe(): { celsius: string } {
  if (!state.plugged)
    throw new Problem(503, 'The probe does not answer', [
      {
        code: 'device.silent',
        path: '',
        message:
          'The temperature probe does not answer. Plug it in and read it again, or type the temperature.'
      }
    ]);
  return { celsius: state.celsius };
}

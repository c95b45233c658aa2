import { spawn, type ChildProcess } from 'node:child_process';
import { closeSync, openSync } from 'node:fs';
import { endProcess, on, type Machine } from './machines.ts';

/** A program as a machine of the stand runs it. */
export interface ServiceOf {
  machine: Machine;
  name: string;
  user: string;
  command: readonly string[];
  /** Where what it says is written. */
  log: string;
  env?: Readonly<Record<string, string>>;
}

/** One that is begun anew when it ends, as systemd does by `Restart=always`, until it is let down. */
export interface Service {
  readonly machine: Machine;
  readonly name: string;
  start: () => void;
  /** `kill -9`; it is begun anew. */
  kill: () => void;
  /** Stays down from now on, whoever ended it. */
  letDown: () => void;
}

const RESTART_MS = 1_000;

export function service({ machine, name, user, command, log, env = {} }: ServiceOf): Service {
  let child: ChildProcess | null = null;
  let isWanted = false;
  const [program, ...args] = on(machine, user, command);

  function start(): void {
    isWanted = true;
    if (child !== null) return;
    const out = openSync(log, 'a');
    const begun = spawn(program!, args, {
      stdio: ['ignore', out, out],
      env: { PATH: process.env.PATH ?? '', LC_ALL: 'C.UTF-8', ...env },
      detached: true
    });
    closeSync(out);
    child = begun;
    begun.once('exit', () => {
      if (child === begun) child = null;
      if (isWanted) setTimeout(() => isWanted && start(), RESTART_MS).unref();
    });
  }
  function letDown(): void {
    isWanted = false;
  }
  function kill(): void {
    if (child?.pid !== undefined) endProcess(child.pid);
  }
  return { machine, name, start, kill, letDown };
}

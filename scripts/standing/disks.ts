// A disk of its own for each PostgreSQL, so that one can be filled: in memory, of a fixed size.
import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { LEDGER_MACHINES } from './machines.ts';
import { diskOf } from './programs.ts';

export function makeDisks(stand: string, megabytes: number): void {
  for (const machine of LEDGER_MACHINES) {
    const disk = diskOf(stand, machine);
    mkdirSync(disk, { recursive: true });
    const done = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m`, 'tmpfs', disk], {
      encoding: 'utf8'
    });
    if (done.status !== 0) throw new Error(`A disk could not be made at ${disk}: ${done.stderr}`);
  }
}

/** Takes the disks of this or an earlier stand away, with what is on them. */
export function dropDisks(stand: string): void {
  for (const machine of LEDGER_MACHINES) spawnSync('umount', ['-l', diskOf(stand, machine)]);
}

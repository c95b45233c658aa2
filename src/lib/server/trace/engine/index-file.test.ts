import {
  existsSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { pack } from '../../../core/trace/testing/booked-ledger.ts';
import { anyHistory } from '../../../core/trace/testing/random-history.ts';
import { arraysOf, type PackedLedger } from '../../../core/trace/packed/packed-ledger.ts';
import { readIndexFile, writeIndexFile } from './index-file.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'earmark-file-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const around = {
  names: {
    units: [[1, 'each']] as [number, string][],
    places: [[7, 'DOCK “1”']] as [number, string][]
  },
  snapshot: '10:20:12,15',
  anchor: { id: 3, bookedAt: '2026-11-24 00:00:00+00', xid: '9' }
};
const plain = (ledger: PackedLedger) => ({
  ...ledger,
  ...Object.fromEntries(
    arraysOf(ledger).map(([name, array]) => [
      name,
      [array.constructor.name, ...Array.from(array as unknown as ArrayLike<number>)]
    ])
  )
});

it('gives back what was kept, to the bit (property)', () => {
  fc.assert(
    fc.property(anyHistory, (drawn) => {
      const path = join(folder, 'deep', 'index.idx'),
        ledger = pack(drawn.rows);
      writeIndexFile(path, { ledger, ...around });
      const kept = readIndexFile(path)!;
      expect(plain(kept.ledger)).toEqual(plain(ledger));
      expect({ names: kept.names, snapshot: kept.snapshot, anchor: kept.anchor }).toEqual(around);
      for (const [, array] of arraysOf(kept.ledger))
        expect(array.buffer).toBeInstanceOf(SharedArrayBuffer);
    }),
    { numRuns: 60 }
  );
});

it('is for nobody but its owner, and gives nothing where it is cut, damaged anywhere or not ours', () => {
  const path = join(folder, 'index.idx'),
    [drawn] = fc.sample(anyHistory, { numRuns: 1, seed: 3 });
  writeIndexFile(path, { ledger: pack(drawn!.rows), ...around });
  expect(statSync(path).mode & 0o077).toBe(0);
  const good = readFileSync(path);
  const read = (bytes: Buffer) => {
    writeFileSync(path, bytes);
    return readIndexFile(path);
  };
  for (const length of [0, 7, 15, 40, good.length - 9])
    expect(read(good.subarray(0, length)), `cut at ${length}`).toBeNull();
  const start = 16 + Number(good.readBigUInt64LE(8)),
    header = JSON.parse(good.toString('utf8', 16, start)) as {
      version: number;
      parts: { name: string; at: number; length: number }[];
    };
  for (const part of header.parts.filter((one) => one.length > 0)) {
    const damaged = Buffer.from(good);
    damaged[Math.ceil(start / 8) * 8 + part.at]! ^= 0x40;
    expect(read(damaged), part.name).toBeNull();
  }
  expect(
    read(Buffer.from(good.toString('latin1').replace('"version":2', '"version":9'), 'latin1'))
  ).toBeNull();
  expect(read(Buffer.from('EARMARKI and then no header of any kind', 'latin1'))).toBeNull();
  expect(readIndexFile(join(folder, 'not-there'))).toBeNull();
  expect(read(good)).not.toBeNull();
});

it('takes away what a process left that died while it wrote, and not what another writes now', () => {
  const path = join(folder, 'index.idx'),
    [drawn] = fc.sample(anyHistory, { numRuns: 1, seed: 4 }),
    [left, fresh] = [`${path}.4711.new`, `${path}.4712.new`];
  for (const draft of [left, fresh]) writeFileSync(draft, 'begun');
  utimesSync(left, new Date(0), new Date(0));
  writeIndexFile(path, { ledger: pack(drawn!.rows), ...around });
  expect([left, fresh].map(existsSync)).toEqual([false, true]);
});

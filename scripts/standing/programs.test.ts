import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, expect, it } from 'vitest';
import { makeFolder } from './programs.ts';

const folder = mkdtempSync(join(tmpdir(), 'earmark-stand-'));
afterEach(() => rmSync(folder, { recursive: true, force: true }));

it('empties a folder of its own, and no other', () => {
  writeFileSync(join(folder, 'letters.txt'), 'of somebody');
  expect(() => makeFolder(folder)).toThrow('--folder');
  expect(readdirSync(folder)).toEqual(['letters.txt']);
  rmSync(join(folder, 'letters.txt'));
  makeFolder(folder);
  writeFileSync(join(folder, 'left.txt'), 'of a stand before');
  makeFolder(folder);
  expect(readdirSync(folder).sort()).toEqual(['.earmark-cluster', 'backups']);
});

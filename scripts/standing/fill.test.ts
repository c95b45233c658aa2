import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { fill } from './fill.ts';

const FILES = 'deploy/cluster';
const textOf = (name: string): string => readFileSync(join(FILES, name), 'utf8');
/** The words an operator is told to fill in. */
const words = Object.fromEntries(
  [...textOf('machine.env').matchAll(/^([A-Z_]+)=(.*)$/gm)].map(([, word, value]) => [
    word!,
    value === '' ? 'secret' : value!
  ])
);

it('puts in what was said, and names what was not', () => {
  expect(fill('listen ${ADDRESS}:5000 %p $x', { ADDRESS: '10.0.0.1' })).toBe(
    'listen 10.0.0.1:5000 %p $x'
  );
  expect(() => fill('${A} ${B}', { A: '1' })).toThrow('B');
});

it.each(readdirSync(FILES).filter((name) => name !== 'machine.env'))(
  '%s asks for nothing that machine.env does not say',
  (name) => {
    const filled = fill(textOf(name), words);
    expect(filled).not.toContain('${');
  }
);

it('says no secret', () => {
  const secrets = [...textOf('machine.env').matchAll(/^([A-Z]+_PASSWORD)=(.*)$/gm)];
  expect(secrets.map(([, , value]) => value)).toEqual(['', '', '', '']);
});

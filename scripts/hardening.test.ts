import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';

const UNIT = 'deploy/earmark.service';
const unit = readFileSync(UNIT, 'utf8');

// What systemd itself says of the unit (systemd-analyze security, 0 shut to 10 open), where it is there.
test('systemd finds the unit shut, and nothing in it that it does not know', (context) => {
  const run = (...args: string[]) => spawnSync('systemd-analyze', args, { encoding: 'utf8' });
  const said = run('security', '--offline=true', UNIT);
  if (said.error) return context.skip();
  const level = /exposure level for earmark.service: ([\d.]+)/.exec(said.stdout)?.[1];
  expect(Number(level)).toBeLessThan(2);
  expect(said.stderr).not.toMatch(/Unknown|Failed to parse/);
});

test('the unit starts what npm start starts, and keeps its settings out of it', () => {
  const { scripts } = JSON.parse(readFileSync('package.json', 'utf8')) as {
    scripts: { start: string };
  };
  expect(unit).toContain(`ExecStart=/usr/bin/${scripts.start}`);
  expect(unit).not.toMatch(/PASSWORD|TOKEN|SECRET/);
});

import { readdirSync, readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { FAULT_CODES } from '../../core/faults/fault-codes.ts';
import { FAULT_TASKS, taskOf } from './fault-task.ts';
import { anchorOf, helpOf, TASKS } from './help.ts';

const headings = [...readFileSync('docs/using.md', 'utf8').matchAll(/^#{2,3} (.+)$/gm)].map(
  ([, heading]) => heading!
);

/** Screens nobody needs help with: before signing in, without a frame, or the help itself. */
const WITHOUT = /^\/(sign-in|locked|track|01|help)\b/;
const screens = readScreens().filter((route) => !WITHOUT.test(route));

function readScreens(): string[] {
  const files = readdirSync('src/routes', { recursive: true, encoding: 'utf8' });
  return files
    .filter((file) => file.endsWith('+page.svelte'))
    .map((file) => `/${file.replace(/\/?\+page\.svelte$/, '')}`);
}

test('there are screens', () => {
  expect(screens.length).toBeGreaterThan(50);
});

test.each(screens)('%s says what it is for, in three sentences at most', (route) => {
  const { says } = helpOf(route)!;
  expect(says.split(/(?<=[.?!])\s+/).length).toBeLessThanOrEqual(3);
});

test.each([...new Set(TASKS)])('its task “%s” stands in docs/using.md', (task) => {
  expect(headings).toContain(task);
});

test.each(FAULT_TASKS)('what mends a fault, “%s”, stands in docs/using.md', (task) => {
  expect(headings).toContain(task);
});

test('every fault of a booking has its task, and nothing else has', () => {
  for (const code of FAULT_CODES) expect(taskOf(code)).not.toBeNull();
  expect(taskOf('constructor')).toBeNull();
  expect(taskOf('line.lost')).toBeNull();
});

test('every heading has an anchor of its own', () => {
  const anchors = headings.map(anchorOf);
  expect(new Set(anchors).size).toBe(anchors.length);
  expect(anchorOf('Quality: hold, release, reject, scrap')).toBe(
    'quality-hold-release-reject-scrap'
  );
});

test('a screen below another is helped by the nearest above it', () => {
  expect(helpOf('/receive/[number]')).toBe(helpOf('/receive'));
  expect(helpOf('/nothing')).toBeNull();
  expect(helpOf(null)).toBeNull();
});

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test } from 'vitest';
import { isPaper, paperInTurn } from './papers.ts';

const ROUTES = fileURLToPath(new URL('../../../routes', import.meta.url));

test('every route that answers with a paper answers one after the other', () => {
  const text = (path: string): string => readFileSync(join(ROUTES, path), 'utf8');
  const routes = (readdirSync(ROUTES, { recursive: true }) as string[])
    .filter((path) => path.endsWith('+server.ts'))
    .filter((path) => /pdfResponse\(/.test(text(path)));
  expect(routes.length).toBeGreaterThan(5);
  for (const path of routes) {
    const id = `/${path.replace(/\/\+server\.ts$/, '')}`;
    // One that is sent something takes its turn itself, once it has it all.
    const takesTurn = /paperInTurn\(/.test(text(path));
    expect(isPaper(id, 'GET') || takesTurn || id === '/api/v1/labels', id).toBe(true);
  }
  expect(isPaper('/api/v1/marks/[id]', 'GET')).toBe(false);
  expect(isPaper('/api/v1/marks/[id]/as-built', 'POST')).toBe(false);
});

test('papers are made one after the other, and more than can wait are told so at once', async () => {
  let now = 0,
    most = 0;
  const make = async (): Promise<Response> => {
    most = Math.max(most, ++now);
    await new Promise((next) => setImmediate(next));
    now--;
    return new Response('paper');
  };
  const all = await Promise.all(Array.from({ length: 40 }, () => paperInTurn(make)));
  const statuses = all.map((one) => one.status);
  expect(most).toBe(1);
  expect(statuses.filter((one) => one === 200)).toHaveLength(31);
  expect(statuses.filter((one) => one === 503)).toHaveLength(9);
});

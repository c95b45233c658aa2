import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, expect, it } from 'vitest';
import { listedRoutes, needOf } from '../../src/lib/server/http/route-rights.ts';
import { ADDRESSES } from './addresses.ts';

const ROUTES = resolve('src/routes');

/** Whether a route answers a GET: it is a page, or its server file exports one. */
function answersGet(id: string): boolean {
  if (needOf(id, 'GET') === null) return false;
  const folder = join(ROUTES, id);
  if (existsSync(join(folder, '+page.svelte'))) return true;
  const file = join(folder, '+server.ts');
  return existsSync(file) && /export const GET\b/.test(readFileSync(file, 'utf8'));
}

describe('the addresses the benchmark asks', () => {
  it('are there for every route that answers a GET, and for no other', () => {
    expect(Object.keys(ADDRESSES).sort()).toEqual(listedRoutes().filter(answersGet).sort());
  });
});

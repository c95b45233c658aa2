import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { mayDo, ROLES, type Right } from '../../core/people/rights.ts';
import { OPERATIONS } from './operations/all.ts';
import { listedRoutes, needOf } from './route-rights.ts';

const ROUTES = fileURLToPath(new URL('../../../routes', import.meta.url));
const files = (folder: string): string[] =>
  readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    return statSync(path).isDirectory() ? files(path) : [path];
  });
const endpoints = files(ROUTES)
  .filter((path) => /\+(page\.svelte|page\.server\.ts|server\.ts)$/.test(path))
  .map((path) => ({
    path,
    id: `/${relative(ROUTES, join(path, '..'))}`.replace(/\/$/, '') || '/'
  }));

describe('rights of routes', () => {
  it('every route that can be asked is listed, and nothing is listed that is not there', () => {
    expect([...new Set(endpoints.map((route) => route.id))].sort()).toEqual(listedRoutes().sort());
  });

  it('every method a route exports has a need, and every need has a role', () => {
    for (const { path, id } of endpoints.filter((route) => route.path.endsWith('+server.ts'))) {
      for (const [, method] of readFileSync(path, 'utf8').matchAll(
        /export const (GET|POST|PUT|PATCH|DELETE)\b/g
      )) {
        const need = needOf(id, method!);
        expect(need, `${method} ${id}`).not.toBeNull();
        if (need !== 'nobody' && need !== 'self')
          expect(
            ROLES.some((role) => mayDo([role], need as Right)),
            `${method} ${id}`
          ).toBe(true);
      }
    }
  });

  // A question about a trace may be too long for an address; it changes nothing but to keep its own
  // list of marks.
  it('an auditor reads all and changes nothing', () => {
    const changing = endpoints
      .filter((route) => route.path.endsWith('+server.ts'))
      .flatMap(({ path, id }) =>
        [...readFileSync(path, 'utf8').matchAll(/export const (POST|PUT|PATCH|DELETE)\b/g)].map(
          ([, method]) => ({ id, method: method! })
        )
      )
      .filter(
        ({ id }) =>
          ![
            '/sign-out',
            '/api/v1/sign-in',
            '/api/v1/checks/[kind]',
            '/api/v1/trace-roots',
            '/api/v1/common-sources',
            // It is given what is shown, and makes a paper or a file of it.
            '/lists'
          ].includes(id)
      );
    expect(changing.length).toBeGreaterThan(10);
    // Their own account is theirs to look after.
    for (const { id, method } of changing.filter((one) => needOf(one.id, one.method) !== 'self'))
      expect(mayDo(['auditor'], needOf(id, method) as Right), `${method} ${id}`).toBe(false);
    for (const { id } of endpoints)
      if (
        ![
          '/orders/new',
          '/orders/import',
          '/setup/products/import',
          '/setup/people',
          '/setup/hooks',
          '/api/v1/hooks',
          '/api/v1/hooks/[id]/deliveries',
          '/metrics',
          '/setup/security',
          '/setup/people/[login]',
          '/api/v1/security-log',
          '/api/v1/access-settings',
          '/recall/new',
          '/value/revalue',
          '/transfer/order',
          '/service/new'
        ].includes(id)
      )
        expect(
          ['nobody', 'self', 'read', 'see.costs'].includes(String(needOf(id, 'GET'))) ||
            !endpoints.some(
              ({ id: other, path }) =>
                other === id &&
                (path.includes('+page') || /export const GET/.test(readFileSync(path, 'utf8')))
            ),
          id
        ).toBe(true);
  });

  it('every operation of the API document is a route', () => {
    for (const { path, method } of OPERATIONS)
      expect(
        needOf(`/api/v1${path.replaceAll('{', '[').replaceAll('}', ']')}`, method.toUpperCase()),
        `${method} ${path}`
      ).not.toBeNull();
  });
});

import { expect, test } from 'vitest';
import { securityKindOf } from './security-event.ts';

test.each([
  ['POST', '/api/v1/receipts', 403, false, 'refused'],
  ['GET', '/setup/people', 403, false, 'refused'],
  ['PUT', '/api/v1/people/[login]', 201, false, 'changed'],
  ['POST', '/api/v1/people/[login]/tokens', 201, false, 'changed'],
  ['DELETE', '/api/v1/people/[login]/tokens', 204, false, 'changed'],
  ['PUT', '/api/v1/account/password', 204, false, 'changed'],
  ['POST', '/api/v1/account/passkeys', 201, false, 'changed'],
  ['DELETE', '/api/v1/people/[login]/factors', 204, false, 'changed'],
  ['PUT', '/api/v1/access-settings', 200, false, 'changed'],
  ['POST', '/api/v1/session/lock', 204, false, null],
  ['PUT', '/api/v1/marking-plans/[code]', 200, false, 'changed'],
  ['PUT', '/api/v1/products/[code]/spec', 201, false, 'changed'],
  ['POST', '/api/v1/imports/[kind]', 200, false, 'changed'],
  ['GET', '/api/v1/imports/[kind]', 200, true, 'file taken'],
  ['GET', '/api/v1/exports/[kind]', 200, true, 'file taken'],
  ['POST', '/sign-out', 303, false, 'signed out'],
  ['PUT', '/api/v1/people/[login]', 422, false, null],
  ['GET', '/api/v1/exports/[kind]', 422, true, null],
  ['POST', '/api/v1/receipts', 201, false, null],
  ['PUT', '/api/v1/products/[code]', 200, false, null],
  ['GET', '/api/v1/marks', 200, false, null]
] as const)('%s %s answered with %d', (method, route, status, isFile, kind) =>
  expect(securityKindOf({ method, route, status, isFile })).toBe(kind)
);

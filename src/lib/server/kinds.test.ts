import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { EVENT_KINDS, isEventKind } from '../core/ledger/event-kinds.ts';
import { mayDo, ROLES } from '../core/people/rights.ts';
import { KIND_OF_CODE } from '../core/trace/packed/packed-ledger.ts';
import { OPERATIONS } from './http/operations/all.ts';
import { needOf, rightsOf } from './http/route-rights.ts';
import { BOOKING_KINDS, kindAt } from './kinds.ts';

const LEDGER = fileURLToPath(new URL('./kernel/db/migrations/0029-service.sql', import.meta.url));
/** The kinds the database takes, from the constraint of its table of events. */
const kindsOfTheDatabase = (): string[] => {
  const check = /event_kind_check CHECK \(kind IN \(([^)]*)\)\)/.exec(
    readFileSync(LEDGER, 'utf8')
  )![1]!;
  return [...check.matchAll(/'([^']+)'/g)].map(([, kind]) => kind!);
};

describe('the table of kinds', () => {
  it('has every kind the database takes, and none else', () => {
    expect(Object.keys(EVENT_KINDS).sort()).toEqual(kindsOfTheDatabase().sort());
  });

  it('gives each kind of event a code of its own, which the genealogy reads back', () => {
    for (const [kind, { code }] of Object.entries(EVENT_KINDS))
      expect(KIND_OF_CODE[code]).toBe(kind);
    expect(KIND_OF_CODE[0]).toBe('');
  });

  it('writes only events there are, each from one kind of booking', () => {
    const written = BOOKING_KINDS.flatMap((kind) => [...kind.eventKinds]);
    expect(written.every(isEventKind)).toBe(true);
    expect(new Set(written).size).toBe(written.length);
  });

  it('is what routes, the API document and rights are made from', () => {
    for (const kind of BOOKING_KINDS) {
      const route = `/api/v1/${kind.path}`;
      expect(kindAt(kind.path)).toBe(kind);
      expect(rightsOf(route, 'POST')).toBe(kind.rights);
      expect(kind.rights).toContain(needOf(route, 'POST'));
      expect(OPERATIONS.find((one) => one.path === `/${kind.path}`)?.body).toBe(kind.schema);
      for (const right of kind.rights) {
        expect(ROLES.some((role) => mayDo([role], right))).toBe(true);
        expect(mayDo(['auditor'], right)).toBe(false);
      }
    }
    expect(kindAt('nothing')).toBeNull();
  });
});

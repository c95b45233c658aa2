import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { tagOf } from '../kernel/db/entity-tag.ts';
import { asAsked } from '../kernel/db/preconditions.ts';
import { Problem } from '../kernel/problem.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { putPlace, readPlace } from './partners-places.ts';

let world: World;
beforeAll(async () => {
  // Fewer connections than there are who ask at once: nobody may hold one and wait for another.
  world = await makeWorld({ max: 6 });
});
afterAll(() => world.end());

/** A PUT of a place as a route makes it. */
function put(code: string, name: string, headers: Record<string, string> = {}) {
  const request = new Request('http://earmark.test/', { method: 'PUT', headers });
  return asAsked(world.sql, request, {
    ...{ what: 'place', code },
    read: (tx) => readPlace(tx, code),
    keep: (tx) => putPlace(tx, code, { name, site: 'QW', kind: 'rack' })
  });
}
const tagOfPlace = async (code: string): Promise<string> =>
  tagOf((await readPlace(world.sql, code))!);
const nameOf = async (code: string): Promise<string> => (await readPlace(world.sql, code))!.name;
const refusalOf = async (work: Promise<unknown>): Promise<Problem> =>
  await work.then(
    () => expect.fail('It was not refused.'),
    (problem: unknown) => problem as Problem
  );

// RFC 9110, 13.1.1 and 13.1.2: If-Match and If-None-Match (quoted from memory).
describe('what is kept under a code, on terms', () => {
  it('is kept where it still is what was seen', async () => {
    await put('T-SEEN', 'before');
    await put('T-SEEN', 'after', { 'if-match': await tagOfPlace('T-SEEN') });
    expect(await nameOf('T-SEEN')).toBe('after');
  });

  it('is refused where somebody changed it since, and stays theirs', async () => {
    await put('T-STALE', 'before');
    const seen = await tagOfPlace('T-STALE');
    await put('T-STALE', 'theirs');
    const problem = await refusalOf(put('T-STALE', 'mine', { 'if-match': seen }));
    expect(problem.status).toBe(412);
    expect(problem.errors[0]).toMatchObject({ code: 'record.changed', number: 'T-STALE' });
    expect(await nameOf('T-STALE')).toBe('theirs');
  });

  it('is refused where there is nothing to change', async () => {
    const problem = await refusalOf(put('T-NONE', 'mine', { 'if-match': '"anything"' }));
    expect(problem.status).toBe(412);
    expect(await readPlace(world.sql, 'T-NONE')).toBeNull();
  });

  it('takes any of several tags, and a star for whatever is there', async () => {
    await put('T-MANY', 'a');
    await put('T-MANY', 'b', { 'if-match': `"other", ${await tagOfPlace('T-MANY')}` });
    await put('T-MANY', 'c', { 'if-match': '*' });
    expect(await nameOf('T-MANY')).toBe('c');
  });

  it('is changed by one of twenty who saw the same, and the rest are told', async () => {
    await put('T-RACE', 'before');
    const seen = await tagOfPlace('T-RACE');
    const names = Array.from({ length: 20 }, (_, n) => `by ${n}`);
    const done = await Promise.allSettled(
      names.map((name) => put('T-RACE', name, { 'if-match': seen }))
    );
    expect(done.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
    const kept = names[done.findIndex((one) => one.status === 'fulfilled')];
    expect(await nameOf('T-RACE')).toBe(kept);
  });

  it('is made once by twenty who make the same, whose pool is smaller than they are many', async () => {
    const done = await Promise.allSettled(
      Array.from({ length: 20 }, (_, n) => put('T-NEW', `by ${n}`, { 'if-none-match': '*' }))
    );
    expect(done.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
  });

  it('has another tag with every change, and the same as long as there is none', async () => {
    await put('T-TAG', 'a');
    const first = await tagOfPlace('T-TAG');
    await put('T-TAG', 'a');
    expect(await tagOfPlace('T-TAG')).toBe(first);
    await put('T-TAG', 'b');
    expect(await tagOfPlace('T-TAG')).not.toBe(first);
  });
});

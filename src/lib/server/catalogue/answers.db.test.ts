import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { z } from 'zod';
import { makeWorld, type World } from '../testing/world.ts';
import { CompanyAnswer, PartnerAnswer, PlaceAnswer, ProductAnswer } from './answers.ts';
import { company } from './company.ts';
import { readPartner, readPlace } from './partners-places.ts';
import { readProduct } from './products.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

/** The codes of all records of a table. */
const codesOf = async (table: string): Promise<string[]> =>
  (await world.sql<{ code: string }[]>`SELECT code FROM ${world.sql(table)}`).map(
    ({ code }) => code
  );
const asAnswered = (record: unknown): unknown => JSON.parse(JSON.stringify(record));
/** What an answer has that its form does not say, or lacks; empty where it is of its form. */
const wrongIn = (form: z.ZodType, record: unknown): string[] =>
  form.safeParse(asAnswered(record)).error?.issues.map(({ message }) => message) ?? [];

describe('what is answered is of the form the document says', () => {
  it.each([
    ['product', ProductAnswer, readProduct],
    ['partner', PartnerAnswer, readPartner],
    ['place', PlaceAnswer, readPlace]
  ] as const)('every %s', async (table, form, read) => {
    const codes = await codesOf(table);
    expect(codes.length).toBeGreaterThan(0);
    for (const code of codes) expect(wrongIn(form, await read(world.sql, code)), code).toEqual([]);
  });

  it('the company', async () => {
    expect(wrongIn(CompanyAnswer, await company(world.sql))).toEqual([]);
  });

  it('and a form says where an answer is none of it', async () => {
    const [code] = await codesOf('place');
    const place = await readPlace(world.sql, code!);
    expect(wrongIn(PlaceAnswer, { ...place, colour: 'red' })).toHaveLength(1);
    expect(wrongIn(PlaceAnswer, { ...place, name: null })).toHaveLength(1);
  });
});

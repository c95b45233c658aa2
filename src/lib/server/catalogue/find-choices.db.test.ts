import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeWorld, type World } from '../testing/world.ts';
import { putPartner } from './partners-places.ts';
import { putProduct } from './products.ts';
import { findChoices, productsNamed } from './find-choices.ts';

describe('what a few letters of a code or a name may mean', () => {
  let world: World;
  const product = (code: string, name: string, made = false) =>
    putProduct(world.sql, code, {
      ...{ name, unit: 'each', decimals: 0, made, marking: 'serial' }
    } as never);
  const codes = async (...[of, text]: [Parameters<typeof findChoices>[1], string]) =>
    (await findChoices(world.sql, of, text)).choices.map(({ code }) => code);

  beforeAll(async () => {
    world = await makeWorld();
    await product('ZB-1', 'anchor');
    await product('ZB-10', 'bolt', true);
    await product('XX-1', 'holds zb-1 in its name');
    for (let n = 0; n < 15; n++) await product(`MANY-${n}`, 'one of many');
    await putPartner(world.sql, 'ONLY-SUP', {
      ...{ name: 'Zebra Supplies', supplier: true, customer: false }
    } as never);
    await putPartner(world.sql, 'ONLY-CUS', {
      ...{ name: 'Zebra Buyers', supplier: false, customer: true }
    } as never);
  });
  afterAll(() => world.end());

  it('is the code itself first, then what begins so, then what holds it', async () => {
    expect(await codes('product', 'zb-1')).toEqual(['ZB-1', 'ZB-10', 'XX-1']);
  });
  it('is only of what is asked for', async () => {
    expect(await codes('made product', 'zb')).toEqual(['ZB-10']);
    expect(await codes('supplier', 'zebra')).toEqual(['ONLY-SUP']);
    expect(await codes('customer', 'ZEBRA')).toEqual(['ONLY-CUS']);
    expect(await codes('partner', 'zebra')).toEqual(['ONLY-CUS', 'ONLY-SUP']);
  });
  it('says that there are more, and takes wildcards as plain signs', async () => {
    const found = await findChoices(world.sql, 'product', 'many');
    expect(found.choices).toHaveLength(12);
    expect(found.more).toBe(true);
    expect(await codes('product', '%')).toEqual([]);
  });
  it('tells what is known of products that are named already', async () => {
    const [known, ...others] = await productsNamed(world.sql, ['zb-10', 'NO-SUCH']);
    expect(known).toMatchObject({ code: 'ZB-10', name: 'bolt', unit: 'each', marking: 'serial' });
    expect(others).toEqual([]);
  });
});

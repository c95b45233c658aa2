import type { Db } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { readExplosion, type ExplosionAnswer } from './explosion.ts';
import { stillToMake } from './product-uses.ts';

/** A bill drawn for so many, or why it cannot be. */
export interface WhatItTakes {
  /** How many it is drawn for, as it was asked. */
  wanted: string;
  /** How many are still to be made on orders that wait; null for none. */
  open: string | null;
  explosion: ExplosionAnswer | null;
  why: string;
}

/**
 * What a product's bill takes through all levels: for as many as are asked, or are still to be
 * made, or one.
 * @param asked as it was typed; null where nothing was
 */
export async function readWhatItTakes(
  db: Db,
  code: string,
  asked: string | null,
  day: string
): Promise<WhatItTakes> {
  const open = await stillToMake(db, code);
  const wanted = asked?.trim() || open || '1';
  try {
    return { wanted, open, explosion: await readExplosion(db, code, wanted, day), why: '' };
  } catch (problem) {
    if (!(problem instanceof Problem)) throw problem;
    const why = problem.errors[0]?.message ?? problem.title;
    return { wanted, open, explosion: null, why };
  }
}

import { inTurn } from '../../core/in-turn.ts';

const next = inTurn();
let underWay = 0;

/** Scans are given to the sheet one after the other, in the order they came. */
export async function giveInTurn(give: () => Promise<void>): Promise<void> {
  underWay++;
  try {
    await next(give);
  } finally {
    underWay--;
  }
}

/**
 * What a key does comes after all scans that are on their way to the sheet; at once where none is.
 * @param act answers whether it did something
 * @returns whether it did or will
 */
export function afterScans(act: () => boolean): boolean {
  if (underWay === 0) return act();
  void giveInTurn(async () => void act());
  return true;
}

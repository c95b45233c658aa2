import { parse, stringify } from 'devalue';
import { quantity, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { Snapshot } from './snapshot.ts';

const isQuantity = (value: unknown): value is Quantity => value instanceof ZERO.constructor;

/** What a decision knows as text, so that it can be kept where there is no database. */
export const knownText = (snapshot: Snapshot): string =>
  stringify(snapshot, {
    Quantity: (value: unknown) => isQuantity(value) && value.toFixed()
  });

/** What `knownText` wrote. */
export const readKnownText = (text: string): Snapshot =>
  parse(text, { Quantity: (value: string) => quantity(value) }) as Snapshot;

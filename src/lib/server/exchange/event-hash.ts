import { createRequire } from 'node:module';
import type { EpcisEvent } from '../../core/exchange/write.ts';

interface Hashing {
  eventToHashedId: (event: object, context: object, strict: boolean) => string;
}

/** The package takes a second to load: most processes never work out a hash. */
let loaded: Hashing | null = null;
const hashing = (): Hashing => (loaded ??= createRequire(import.meta.url)('epcis2.js') as Hashing);

/**
 * The hash identifier of an event: the same event, sent by whom and however often, has the same.
 * Worked out by the package epcis2.js.
 * Source: Core Business Vocabulary 2.0, section 8.9 (event hash identifiers).
 * @param context prefixes of extension fields and what they stand for; a field of another prefix is
 * left out
 */
export function eventHash(event: EpcisEvent, context: Readonly<Record<string, string>>): string {
  const {
    eventID: _,
    recordTime: __,
    errorDeclaration: ___,
    ...told
  } = event as EpcisEvent & Record<string, unknown>;
  return hashing().eventToHashedId(told, context, false);
}

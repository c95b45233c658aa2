import { z } from 'zod';
import { LANGUAGES, type Language } from '../../core/papers/language.ts';
import { readQuery } from './read-body.ts';

/** How a paper to a partner is asked for. */
export const PaperAsked = z.strictObject({
  language: z
    .enum(LANGUAGES)
    .optional()
    .meta({ description: 'The language it is written in; the partner’s own where it is not said' })
});

/** The language a paper is asked in; undefined for the partner's own. @throws Problem 400 */
export const languageAsked = (url: URL): Language | undefined =>
  readQuery(url, PaperAsked).language;

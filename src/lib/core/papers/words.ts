import { german } from './words-de.ts';
import { english, type PaperWords } from './words-en.ts';
import { spanish } from './words-es.ts';
import { french } from './words-fr.ts';
import type { Language } from './language.ts';

export type { PaperWords };

const WORDS: Readonly<Record<Language, PaperWords>> = {
  ...{ en: english, de: german, fr: french, es: spanish }
};

/** What papers to a partner of this language say. */
export const wordsIn = (language: Language): PaperWords => WORDS[language];

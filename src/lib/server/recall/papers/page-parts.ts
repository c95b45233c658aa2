import { HOME_ZONE } from '../../../core/calendar/day.ts';
import type { Language } from '../../../core/papers/language.ts';
import { sayInstantIn } from '../../../core/papers/say-in.ts';

/** An instant as the papers of a case say it. */
export const at = (iso: string, language: Language = 'en'): string =>
  sayInstantIn(new Date(iso), HOME_ZONE, language);

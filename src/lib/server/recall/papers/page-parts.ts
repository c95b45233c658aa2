import { HOME_ZONE } from '../../../core/calendar/day.ts';
import { sayInstantAt } from '../../kernel/paper/paper.ts';

/** An instant as the papers of a case say it. */
export const at = (iso: string): string => sayInstantAt(new Date(iso), HOME_ZONE);

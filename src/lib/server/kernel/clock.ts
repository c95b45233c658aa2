import { dayOf, HOME_ZONE } from '../../core/calendar/day.ts';

/** The calendar day now, where the company is. */
export const today = (): string => dayOf(new Date(), HOME_ZONE);

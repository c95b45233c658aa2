import type { JobSummary } from '../../core/service/job-summary.ts';
import { isOver } from '../../core/service/job-state.ts';
import type { Warranty } from '../../core/service/warranty.ts';

/** What is known of a unit that was scanned, as the interface answers it. */
export interface FoundUnit {
  mark: number;
  product: string;
  name: string;
  serial: string;
  /** Where it lies here; null where it is out. */
  place: string | null;
  sales: {
    document: string;
    day: string;
    partner: string | null;
    partnerCode: string | null;
  }[];
  warranties: { ours: Warranty } | null;
  recalled: boolean;
  jobs: JobSummary[];
}

/** What is typed of a unit that comes in; what belongs to its customer stays for the next one. */
export interface Intake {
  product: string;
  serial: string;
  lot: string;
  customer: string;
  place: string;
  fault: string;
  faultCode: string;
  condition: string;
  accessories: string;
  contact: { name: string; email: string; phone: string };
  promised: string;
  charged: '' | 'yes' | 'no';
  here: boolean;
}

/** The same customer’s next unit: who, where and until when stay, what is of the unit is empty. */
export const nextUnit = (typed: Intake): Intake => ({
  ...typed,
  product: '',
  serial: '',
  lot: '',
  fault: '',
  faultCode: '',
  condition: '',
  accessories: ''
});

/** What is sent to open a job. */
export const jobOf = (typed: Intake): object => ({
  unit: {
    product: typed.product.trim(),
    serial: typed.serial.trim(),
    ...(typed.lot.trim() ? { lot: typed.lot.trim() } : {})
  },
  customer: typed.customer,
  ...(typed.here ? { place: typed.place } : {}),
  fault: typed.fault.trim(),
  faultCode: typed.faultCode || null,
  condition: typed.condition,
  accessories: typed.accessories,
  contact: typed.contact,
  promised: typed.promised || null,
  ...(typed.charged === '' ? {} : { charged: typed.charged === 'yes' })
});

/** What is still to be said before a job can be opened; empty where it can. */
export function missing(typed: Intake): string {
  if (typed.serial.trim() === '') return 'Scan the unit, or type its serial.';
  if (typed.product.trim() === '') return 'Say which product it is.';
  if (typed.customer === '') return 'Say who brings it.';
  if (typed.fault.trim() === '') return 'Say what is wrong, in the customer’s words.';
  return '';
}

/** The open job of a unit; undefined where it has none. */
export const openJobOf = (unit: FoundUnit): JobSummary | undefined =>
  unit.jobs.find((job) => !isOver(job.state));

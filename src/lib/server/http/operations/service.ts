import { z } from 'zod';
import { PaperAsked } from '../paper-asked.ts';
import { Booked } from '../../ledger/schemas.ts';
import {
  ClaimChange,
  ClaimsQuery,
  FiguresQuery,
  JobFitting,
  NewClaimPart,
  NewServiceJob,
  ServiceArrival,
  ServiceFault,
  ServiceJobAnswer,
  ServiceNote,
  ServiceReturn,
  ServiceSettings,
  ServiceStock,
  ServiceTurn,
  ServiceUnitQuery
} from '../../service/schemas.ts';
import { Exchange } from '../../shipping/schemas.ts';
import { anything, file, type Operation } from './operation.ts';

/** Service jobs, claims and exchanges. */
export const SERVICE_OPERATIONS: readonly Operation[] = [
  {
    method: 'get',
    path: '/service-jobs',
    summary: 'Open service jobs, oldest promise first',
    answer: anything
  },
  {
    method: 'post',
    path: '/service-jobs',
    summary: 'Open a service job on a unit: taken in at a place now, or awaited',
    body: NewServiceJob,
    answer: ServiceJobAnswer,
    booking: true
  },
  {
    method: 'get',
    path: '/service-jobs/{number}',
    summary: 'A service job with its unit, history, bookings, photographs and messages',
    answer: anything
  },
  {
    method: 'patch',
    path: '/service-jobs/{number}',
    summary: 'Turn a service job, or change what is decided of it',
    body: ServiceTurn,
    answer: anything
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/arrival',
    summary: 'The unit a job waits for is here',
    body: ServiceArrival,
    answer: anything,
    booking: true
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/notes',
    summary: 'What was found on a unit, or done to it and how long it took',
    body: ServiceNote,
    answer: anything,
    booking: true
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/fittings',
    summary: 'Parts into the unit of a job, out of it, or both',
    body: JobFitting,
    answer: Booked,
    booking: true
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/return',
    summary: 'The unit goes back to its customer, or another in its place; the job ends',
    body: ServiceReturn,
    answer: Booked,
    booking: true
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/stock',
    summary: 'The unit stays, reconditioned, under its number or a new one; the job ends',
    body: ServiceStock,
    answer: z.object({ serial: z.string(), held: z.boolean() }),
    booking: true
  },
  {
    method: 'post',
    path: '/exchanges',
    summary: 'Shipped units come back and others go out in their place, in one act',
    body: Exchange,
    answer: z.object({ returned: Booked, shipped: Booked }),
    booking: true
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/claim',
    summary: 'A part goes into the claim that is collected for its supplier',
    body: NewClaimPart,
    answer: anything,
    booking: true
  },
  {
    method: 'get',
    path: '/service-units',
    summary: 'What is known of the units a serial may mean: sales, warranty, recalls, earlier jobs',
    query: ServiceUnitQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/service-figures',
    summary: 'Turnaround, repeats, and what fails by fault, product, lot, supplier and age',
    query: FiguresQuery,
    answer: anything
  },
  {
    method: 'put',
    path: '/service-faults/{code}',
    summary: 'A word of the list faults are counted by',
    body: ServiceFault,
    answer: anything
  },
  {
    method: 'get',
    path: '/service-settings',
    summary: 'What the public pages say, and what customers are told',
    answer: ServiceSettings
  },
  {
    method: 'put',
    path: '/service-settings',
    summary: 'Change what the public pages say, and what customers are told',
    body: ServiceSettings,
    answer: ServiceSettings
  },
  {
    method: 'get',
    path: '/claims',
    summary: 'Claims on suppliers; found by our number, theirs, or the serial of a part',
    query: ClaimsQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/claims/{number}',
    summary: 'A claim with its parts and what was answered',
    answer: anything
  },
  {
    method: 'get',
    path: '/claims/{number}/letter',
    summary: 'The letter that goes to the supplier with the parts, as PDF',
    query: PaperAsked,
    answer: file('application/pdf')
  },
  {
    method: 'get',
    path: '/service-jobs/{number}/receipt',
    summary: 'What the customer takes home when a unit is taken in, as PDF',
    query: PaperAsked,
    answer: file('application/pdf')
  },
  {
    method: 'patch',
    path: '/claims/{number}',
    summary: 'A claim was sent, or answered part by part',
    body: ClaimChange,
    answer: anything
  }
];

import * as schemas from '../../hooks/schemas.ts';
import { nothing, type Operation } from './operation.ts';

/** Addresses of other systems that are told what is booked. */
export const HOOK_OPERATIONS: readonly Operation[] = [
  {
    method: 'get',
    path: '/hooks',
    summary: 'Addresses that are told what is booked',
    answer: schemas.Hooks
  },
  {
    method: 'post',
    path: '/hooks',
    summary: 'Have an address told from now on; its secret is told once',
    body: schemas.NewHook,
    answer: schemas.HookMade
  },
  {
    method: 'delete',
    path: '/hooks/{id}',
    summary: 'Tell an address nothing more',
    answer: nothing
  },
  {
    method: 'get',
    path: '/hooks/{id}/deliveries',
    summary: 'The latest hundred messages of an address, and what became of them',
    answer: schemas.HookDeliveries
  },
  {
    method: 'post',
    path: '/hooks/{id}/deliveries/{delivery}',
    summary: 'Send a message again, whatever became of it',
    answer: nothing
  }
];

import { z } from 'zod';
import {
  NewRecall,
  RecallAnswers,
  RecallClosing,
  RecallNotices,
  RecallRelated,
  RecallScope,
  RecallSignature,
  RecallSuspects,
  RecallWords
} from '../../recall/schemas.ts';
import { anything, file, type Operation } from './operation.ts';

/** Recall cases. */
export const RECALL_OPERATIONS: readonly Operation[] = [
  { method: 'get', path: '/recalls', summary: 'Recall cases and drills', answer: anything },
  {
    method: 'post',
    path: '/recalls',
    summary: 'Open a recall case or a drill',
    body: NewRecall,
    answer: anything,
    booking: true
  },
  {
    method: 'get',
    path: '/recalls/{number}',
    summary: 'A case with its scope, frozen and compared with now, notices, answers and signatures',
    answer: anything
  },
  {
    method: 'put',
    path: '/recalls/{number}/{act}',
    summary:
      'Work on a case (act: suspects adds some; words says the case in another language for letters; scope decides it or widens it by what came since; beyond-time takes in what time cleared; hold holds all of it here; notices writes to customers; answers keeps theirs; signature signs it off; closing closes it; related names another case). hold and answers need an Idempotency-Key',
    body: z.union([
      RecallSuspects,
      RecallWords,
      RecallNotices,
      RecallAnswers,
      RecallSignature,
      RecallScope,
      RecallClosing,
      RecallRelated
    ]),
    answer: anything
  },
  {
    method: 'get',
    path: '/recalls/{number}/file',
    summary: 'The case file as PDF, or with format=xlsx as a workbook',
    answer: file('application/pdf')
  },
  {
    method: 'get',
    path: '/recalls/{number}/notices/{id}',
    summary: 'A letter as it was sent, as PDF',
    answer: file('application/pdf')
  }
];

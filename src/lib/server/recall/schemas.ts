import { z } from 'zod';
import { name, markIds, code, quantity, signature, whole } from '../kernel/fields.ts';
import { OTHER_LANGUAGES } from '../../core/papers/language.ts';
import { OUTCOMES } from '../../core/recall/standing.ts';

export const NewRecall = z
  .strictObject({
    title: name,
    hazard: z.string().trim().min(1).max(4000),
    request: z.string().trim().max(4000).default(''),
    mock: z.boolean().default(false),
    targetMinutes: whole(1, 10_000).nullish(),
    remindDays: whole(1, 365).nullish().meta({
      description:
        'After how many days without an answer customers are reminded, again and again; 3 where it is not said, null for never'
    }),
    marks: markIds,
    why: z.string().trim().max(1000).default('')
  })
  .meta({ id: 'NewRecall' });

export const RecallSuspects = z.strictObject({
  marks: markIds,
  why: z.string().trim().max(1000).default('')
});

export const RecallWords = z.strictObject({
  language: z.enum(OTHER_LANGUAGES),
  title: name,
  hazard: z.string().trim().min(1).max(4000),
  request: z.string().trim().max(4000).default('')
});

export const RecallNotices = z.strictObject({ partners: z.array(code).max(5000).optional() });

export const RecallAnswers = z.strictObject({
  answers: z
    .array(
      z.strictObject({
        partner: code,
        mark: z.int().min(1),
        outcome: z.enum(OUTCOMES),
        quantity,
        note: z.string().trim().max(2000).default('')
      })
    )
    .min(1)
    .max(20_000)
});

export const RecallSignature = z.strictObject({ password: z.string().max(1000) });

export const RecallScope = z.strictObject({ signature });

export const RecallClosing = z.strictObject({ reason: z.string().trim().max(2000).optional() });

export const RecallBeyondTime = z.strictObject({ beyond: z.boolean() });

export const RecallRelated = z.strictObject({ other: code });

export const RecallReminding = z.strictObject({ days: whole(1, 365).nullable() });

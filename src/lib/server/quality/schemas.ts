import { z } from 'zod';
import {
  text,
  mark,
  instant,
  code,
  circumstances,
  reason,
  rows,
  signature
} from '../kernel/fields.ts';

export const QualityTest = z
  .strictObject({
    product: text,
    ...mark,
    takenAt: instant.optional(),
    instrument: z.string().trim().max(200).default(''),
    sample: z.string().trim().max(200).default(''),
    note: z.string().trim().max(2000).default(''),
    results: z
      .array(
        z.strictObject({
          name: z.string().trim().min(1).max(100),
          value: z.union([z.string().max(200), z.number().transform(String)]),
          unit: z.string().trim().max(20).default('')
        })
      )
      .max(200)
  })
  .meta({ id: 'QualityTest' });

export const CertificateRequest = z
  .strictObject({
    marks: z.array(z.int().positive()).min(1).max(1000).optional(),
    signature,
    event: z.int().positive().optional().meta({ description: 'A shipment: everything in it' }),
    partner: code
      .nullish()
      .meta({ description: 'Whose limits count; the shipment’s customer where it is of one' })
  })
  .meta({ id: 'CertificateRequest' });

export const QualityDecision = z
  .strictObject({
    ...circumstances,
    kind: z.enum(['hold', 'release', 'reject']),
    reason,
    marks: rows(z.strictObject({ product: text, ...mark })).min(1)
  })
  .meta({ id: 'QualityDecision' });

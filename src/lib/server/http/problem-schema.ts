import { z } from 'zod';

export const ProblemDocument = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.number(),
    detail: z.string().optional(),
    errors: z.array(
      z.object({
        code: z.string(),
        path: z.string(),
        number: z.string().optional(),
        message: z.string(),
        answer: z.enum(['reason', 'second person']).optional().meta({
          description: 'Set where the booking may go on with a written reason in `reasons`'
        })
      })
    )
  })
  .meta({ id: 'Problem' });

import { z } from 'zod';

export const Probe = z.strictObject({
  celsius: z.string().regex(/^-?\d{1,3}(\.\d{1,2})?$/, 'Give degrees such as 4.5'),
  plugged: z.boolean()
});

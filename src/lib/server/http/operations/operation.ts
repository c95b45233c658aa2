import { z } from 'zod';

/** One operation of the contract: how it is asked and what it answers. */
export interface Operation {
  method: 'get' | 'put' | 'post' | 'patch' | 'delete';
  path: string;
  summary: string;
  body?: z.ZodType;
  query?: z.ZodObject;
  answer: z.ZodType | FileAnswer;
  booking?: true;
}

/** An answer that is a file and no document: of which kinds it may be. */
export interface FileAnswer {
  mediaTypes: readonly string[];
}

/** Answered with a file. @param mediaTypes as IANA has them, such as `application/pdf` */
export const file = (...mediaTypes: string[]): FileAnswer => ({ mediaTypes });

/** An answer of which the document says no more than that it is one. */
export const anything = z.object({}).loose();

/** Answered with 204. */
export const nothing = z.null().meta({ description: 'Done; there is no body' });

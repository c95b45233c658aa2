/** The words a limit is said in; those of other languages stand with the papers' (core/papers). */
export interface LimitWords {
  between: (least: string, most: string) => string;
  least: (least: string) => string;
  most: (most: string) => string;
  /** Of a text, which always conforms. */
  reported: string;
  or: (answers: readonly string[]) => string;
  /** An answer of yes or no. */
  yes: string;
  no: string;
}

export const LIMITS_IN_ENGLISH: LimitWords = {
  between: (least, most) => `${least} to ${most}`,
  least: (least) => `at least ${least}`,
  most: (most) => `at most ${most}`,
  reported: 'reported',
  or: (answers) => answers.join(' or '),
  yes: 'yes',
  no: 'no'
};

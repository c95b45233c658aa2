/** A file that is not read, and why, as a sentence; thrown where no Problem can be. */
export class Unreadable extends Error {
  constructor(
    readonly status: 413 | 422,
    message: string
  ) {
    super(message);
  }
}

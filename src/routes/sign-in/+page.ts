/**
 * A plain form needs no script; one that woke up late would wipe what somebody had typed by then.
 */
export const csr = false;

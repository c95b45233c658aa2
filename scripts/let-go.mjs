/**
 * Closes a pool of connections that nothing is asked of any more. One whose server died in the
 * middle of a question would never say that it is closed, and Node.js ends without a word where
 * nothing else is left to wait for.
 */
export const letGo = (sql) => sql.end({ timeout: 1 });

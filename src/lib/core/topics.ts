/**
 * What is told of a change: the ledger has a new event; orders or promises changed; something was
 * picked, counted, or a service job turned.
 */
export const TOPICS = ['ledger', 'orders', 'picks', 'counts', 'service'] as const;
export type Topic = (typeof TOPICS)[number];

export const isTopic = (text: string): text is Topic =>
  (TOPICS as readonly string[]).includes(text);

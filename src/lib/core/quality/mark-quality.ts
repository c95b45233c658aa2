import type { Judged, Limit, Result, Verdict } from './spec.ts';

/** A test of a mark, as it is kept. */
export interface TestRecord {
  id: number;
  mark: number;
  takenAt: string;
  instrument: string;
  sample: string;
  note: string;
  results: Result[];
  who: string;
  signedBy: string | null;
  signedAt: string | null;
  specVersion: number | null;
  /** Whoever asks made it, so that somebody else signs it off. */
  own: boolean;
}

/** What was tested of a mark, and what is thought of it. */
export interface MarkQuality {
  tests: TestRecord[];
  /** Every characteristic the product or a customer limits, each once, the product's first. */
  asked: Limit[];
  sampling: string;
  /** By the product's limits (`whose` null) and by each customer's, where there is a verdict. */
  verdicts: { whose: string | null; verdict: Verdict | null; judged: Judged[] }[];
  /** The version of the product's own spec; null where it has none. */
  presentVersion: number | null;
}

import type { OutsideEvent } from '$lib/core/exchange/outside-event.ts';
import type { BeyondTime } from '$lib/core/trace/beyond-time.ts';
import type { TraceDrawing } from '$lib/core/trace/trace-answer.ts';

/** All that the screen of a drawn trace is given. Days and instants are ISO 8601. */
export interface DrawnTraceData {
  trace: TraceDrawing;
  /** The mark or kept set the trace starts from, as in its address. */
  at: string;
  direction: 'upstream' | 'downstream';
  view: 'river' | 'outline' | 'table';
  until: string | null;
  /** The document or event it starts at. */ from: string | null;
  clocks: 'obey' | 'ignore';
  /** Where the clocks are ignored: what is reached only because of it. */
  beyond: BeyondTime;
  without: { products: string[]; kinds: string[] };
  setTitle: string | null;
  outside: OutsideEvent[];
  mayRecall: boolean;
  mayProve: boolean;
  today: string;
  products: Record<string, { name: string; unit: string }>;
  partners: Record<string, string>;
  places: Record<string, string>;
}

/** A part that is claimed, and what was answered of it. */
export interface ClaimPart {
  mark: number;
  product: string;
  name: string;
  serial: string;
  job: string | null;
  /** The receipt it came by. */
  receipt: number | null;
  document: string | null;
  received: string | null;
  warrantyUntil: string | null;
  goodwill: boolean;
  reason: string;
  outcome: 'credited' | 'replaced' | 'refused' | null;
  note: string;
  replacedBy: string | null;
}

/** A claim on a supplier: collected, sent, and answered when all its parts are. */
export interface ClaimRecord {
  number: string;
  supplier: string;
  name: string;
  address: string;
  reference: string;
  state: 'collected' | 'sent' | 'answered';
  openedAt: string;
  sentAt: string | null;
  parts: ClaimPart[];
}

/** An event that was booked against an order, with what it was about and its papers. */
export interface BookedAgainst {
  id: number;
  kind: string;
  /** The number its paper goes by. */
  paper: string;
  reference: string | null;
  /** An instant. */
  at: string;
  who: string;
  /** All of it, or part of it, was taken back. */
  takenBack: boolean;
  /** How many lots and serials, and the first of them. */
  marks: number;
  first: readonly { id: number; number: string | null; product: string }[];
  /** Certificates issued for it. */
  certificates: readonly number[];
}

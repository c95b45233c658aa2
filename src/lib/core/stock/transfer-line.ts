/** How much of a product a transfer was ordered to take, and how far it is. */
export interface TransferLine {
  line: number;
  product: string;
  name: string;
  unit: string;
  quantity: string;
  /** What has left of it, and what has arrived. */
  gone: string;
  arrived: string;
  /** What is still to leave; `"0"` where all of it, or more, has. */
  left: string;
}

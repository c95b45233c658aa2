/** A carton that may be under way: all that is in it is. */
export interface CartonUnderWay {
  sscc: string;
  /** The pallet it stands on. */
  pallet: string | null;
  contents: readonly { mark: number; quantity: string }[];
}

/** Jobs that share something, with their units for whoever looks for what they share. */
export interface FaultGroup {
  says: string;
  jobs: number;
  serials: string[];
}

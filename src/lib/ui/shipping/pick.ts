import type { PickRecord } from '../../core/shipping/pick-record.ts';

/** What is to be fetched there, as it is called. */
export const sayWhat = ({ number, kind, product }: PickRecord): string =>
  number ?? (kind === 'bulk' ? product : 'any free serial');

/**
 * Loads what takes half a second to load before anybody is served, and not in the middle of serving
 * others: the standard's own form of EPCIS documents, and what papers and symbols are drawn with.
 */
export const loadAhead = async (): Promise<void> => {
  await import('../exchange/capture.ts');
  await import('../kernel/paper/pdf.ts');
  await import('../kernel/paper/symbol.ts');
};

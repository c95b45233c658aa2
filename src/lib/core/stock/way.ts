/** What the code of a transfer's own place begins with; no other place has such a code. */
const WAY = 'WAY ';

/** The place that what is under way with a transfer stands at. @param document of the transfer */
export const wayCode = (document: string): string => `${WAY}${document}`;

/** Whether a place is the way of a transfer, and no place to lie at. */
export const isWay = (code: string): boolean => code.toUpperCase().startsWith(WAY);

/** The transfer a way is of. */
export const transferOfWay = (code: string): string => code.slice(WAY.length);

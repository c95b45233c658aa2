/** What a certificate goes by on paper and on screens, by its number: `CA-00007`. */
export const certificateName = (number: number): string => `CA-${String(number).padStart(5, '0')}`;

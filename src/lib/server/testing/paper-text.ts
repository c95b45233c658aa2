import { extractText } from 'unpdf';

/** All that a paper says, read by an independent reader (Mozilla's, as unpdf brings it). */
export async function paperText(pdf: Uint8Array): Promise<string> {
  const { text } = await extractText(new Uint8Array(pdf), { mergePages: true });
  return text.replace(/\s+/g, ' ');
}

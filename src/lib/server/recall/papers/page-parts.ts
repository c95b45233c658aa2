import { HOME_ZONE } from '../../../core/calendar/day.ts';
import { sayInstantAt, type Paper } from '../../kernel/paper/paper.ts';
import { fitted, writeAt } from '../../kernel/paper/pdf.ts';

/** An instant as the papers of a case say it. */
export const at = (iso: string): string => sayInstantAt(new Date(iso), HOME_ZONE);

/** A text over as many lines as it takes. */
export function paragraph(paper: Paper, text: string, points = 10): void {
  const { doc, left, right } = paper;
  for (const part of text.split('\n')) {
    let line = '';
    const put = () => {
      paper.space(16);
      if (line) writeAt(doc, line, left, paper.y, { points });
      paper.y += points * 1.45;
      line = '';
    };
    for (const word of part.split(/\s+/)) {
      const longer = line ? `${line} ${word}` : word;
      if (fitted(doc, longer, right - left, { points }) !== longer && line) put();
      line = line ? `${line} ${word}` : word;
    }
    put();
  }
  paper.y += 4;
}

import { HOME_ZONE } from '../../../core/calendar/day.ts';
import { INK, sayInstantAt, type Paper } from '../../kernel/paper/paper.ts';
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

/** A rule and what stands under it. */
export function heading(paper: Paper, text: string): void {
  paper.space(50);
  paper.y += 4;
  paper.rule(INK);
  writeAt(paper.doc, text, paper.left, paper.y, { face: 'bold', points: 12 });
  paper.y += 20;
}

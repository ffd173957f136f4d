import type { ResultsPaper } from '../../core/report/resultsPaper';
import { asJpegs } from './paperPictures';
import { type SheetHead, heading, sheetsPdf } from './paperSheet';
import { guideContent, readings } from './resultsContent';

/** What is put on paper, with the small pictures that stand on it, as WebP, by their pictures. */
export interface ResultsPdfWish {
  paper: ResultsPaper;
  head: SheetHead;
  foot: string;
  small: Record<string, Uint8Array>;
}

/** The results of a visit as a PDF of A4 sheets. */
export async function resultsPdf({ paper, head, foot, small }: ResultsPdfWish): Promise<Uint8Array> {
  const pictures = await asJpegs(small);
  return sheetsPdf({
    what: 'Results',
    head,
    foot,
    content: [
      ...paper.guides.flatMap((guide) => guideContent(guide, pictures)),
      ...(paper.readings.length > 0 ? [heading('Readings'), readings(paper.readings)] : []),
      ...(paper.guides.length + paper.readings.length === 0
        ? [{ text: 'Nothing has been measured in this visit yet.' }]
        : [])
    ]
  });
}

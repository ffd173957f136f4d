import { insideMm } from '../../core/print/paper';
import { type ReportPicture, type ReportSection, freeWords } from '../../core/report/visitReport';
import type { PdfMade } from './made';
import { type Content, unwritable } from './paperFonts';
import { asJpegs, jpegUrl, unreadable } from './paperPictures';
import { type SheetHead, heading, headWords, mmPt, sheetsPdf } from './paperSheet';
import { guideContent, lines, readings } from './resultsContent';

/** What is put on paper. */
export interface VisitReportWish {
  sections: readonly ReportSection[];
  across: number;
  head: SheetHead;
  /** What everybody has to mind who treats the patient; empty where there is nothing. */
  alert: string;
  foot: string;
  /** Pictures as they are seen, as JPEG, by their entries; one that could not be made is missing. */
  jpegs: Record<string, Uint8Array>;
  /** Small pictures of those that guides lie on, as WebP, by their pictures. */
  small: Record<string, Uint8Array>;
}

const gapMm = 5;
/** A picture is never so high that its words go over to the next sheet. */
const mostHighMm = 200;
/** Side by side no picture is much higher than wide, so that rows stay even. */
const highOfWide = 1.15;

/** The report of a visit as a PDF of A4 sheets. */
export async function visitReportPdf(wish: VisitReportWish): Promise<PdfMade> {
  const { sections, head, alert, foot } = wish;
  const small = await asJpegs(wish.small);
  const bytes = await sheetsPdf({
    what: 'Report',
    head,
    foot,
    content: [
      ...(alert ? [{ text: alert, bold: true, margin: [0, 0, 0, 6] }] : []),
      ...sections.flatMap((section): Content[] => {
        switch (section.kind) {
          case 'words':
            return [heading(section.title), words(section.entries)];
          case 'pictures':
            return [heading(section.title), grid(section.entries, wish)];
          case 'guide':
            return guideContent(section.guide, small);
          case 'readings':
            return [
              heading(section.title),
              readings(section.entries.map(({ key, ...rest }) => ({ id: key, ...rest })))
            ];
        }
      }),
      ...(sections.length === 0 ? [{ text: 'All that this report could hold was taken out.' }] : [])
    ]
  });
  const written = [headWords(head), alert, foot, ...freeWords(sections)];
  return { bytes, unwritable: unwritable(written.join(' ')) };
}

const words = (entries: readonly { name: string; text: string }[]): Content => ({
  layout: { ...lines, hLineWidth: () => 0 },
  margin: [0, 2, 0, 6],
  table: {
    widths: [32 * mmPt, '*'],
    body: entries.map(({ name, text }) => [{ text: name, bold: true }, { text }])
  }
});

/** Pictures side by side, each over its words; no row is parted between two sheets. */
function grid(entries: readonly ReportPicture[], { across, jpegs }: VisitReportWish): Content {
  const wide = (insideMm - gapMm * (across - 1)) / across;
  const high = Math.min(mostHighMm, across === 1 ? mostHighMm : wide * highOfWide);
  const cells = entries.map((entry): Content => {
    const { key, name, lines: said } = entry;
    return {
      stack: [
        jpegs[key] ? { image: jpegUrl(jpegs[key]), fit: [wide * mmPt, high * mmPt] } : { text: unreadable },
        { text: name, bold: true, margin: [0, 2, 0, 0] },
        ...said.map((text) => ({ text, style: 'small' }))
      ]
    };
  });
  const rows = Array.from({ length: Math.ceil(cells.length / across) }, (_, row) =>
    Array.from({ length: across }, (_, column) => cells[row * across + column] ?? { text: '' })
  );
  return {
    layout: {
      hLineWidth: () => 0,
      vLineWidth: () => 0,
      paddingLeft: (column: number) => (column === 0 ? 0 : (gapMm * mmPt) / 2),
      paddingRight: (column: number) => (column === across - 1 ? 0 : (gapMm * mmPt) / 2),
      paddingTop: () => 2,
      paddingBottom: () => 8
    },
    table: {
      dontBreakRows: true,
      widths: Array.from({ length: across }, () => '*'),
      body: rows
    }
  };
}

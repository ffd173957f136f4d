import pdfmake from 'pdfmake';
import { insideMm, wordMarginsMm } from '../../core/print/paper';
import { type Content, lettered, plainFont, setFonts } from './paperFonts';

export const mmPt = 72 / 25.4;
export const grey = '#9aa5a0';

/** How the patient is named on paper, and where and when it was. */
export interface SheetHead {
  title: string;
  about: string;
  clinic: string;
  when: string;
  /** The clinic's address in lines, and its logo as PNG, where it has them. */
  address: string;
  logo: Uint8Array | null;
}

/** What a head says. */
export const headWords = ({ title, about, clinic, when, address }: SheetHead): string =>
  [title, about, clinic, when, address].join(' ');

const logoMm = { width: 40, height: 13 };

/** The clinic's side of a head: its logo beside its name and address. @param logoHighMm no higher than this */
export function clinicSide({ clinic, when, address, logo }: SheetHead, logoHighMm = logoMm.height): Content {
  const said = {
    stack: [
      { text: clinic, bold: true },
      ...(address ? [{ text: address, style: 'small' }] : []),
      ...(when ? [{ text: when }] : [])
    ],
    alignment: 'right'
  };
  if (!logo) return said;
  const image = `data:image/png;base64,${Buffer.from(logo).toString('base64')}`;
  const fit = [logoMm.width * mmPt, logoHighMm * mmPt];
  return {
    columns: [said, { image, fit, width: 'auto', alignment: 'right' }],
    columnGap: 3 * mmPt
  };
}

interface Following {
  getFollowingNodesOnPage(): readonly Content[];
}

export interface SheetWish {
  /** What kind of paper it is: "Results". The document's own title is made of it and of the head. */
  what: string;
  head: SheetHead;
  foot: string;
  content: readonly Content[];
  /** Who it is about does not stand at its head: the paper says it itself. */
  untitled?: boolean;
}

/** What a document tells of itself: who it is of as its head says, and that it can be read out. */
export const aboutDocument = (what: string, head: SheetHead): Content => ({
  info: {
    title: [`${what} of ${head.title}`, head.when].filter(Boolean).join(', '),
    author: head.clinic,
    creator: 'Yonder Tray',
    producer: 'Yonder Tray'
  },
  language: 'en-GB',
  tagged: true,
  displayTitle: true
});

/**
 * A PDF of A4 sheets: the fonts are in it, its text can be read out and searched for, and its properties name the
 * patient as its head does and in no other way.
 */
export async function sheetsPdf({ what, head, foot, content, untitled }: SheetWish): Promise<Uint8Array> {
  setFonts();
  const document = {
    ...aboutDocument(what, head),
    pageSize: 'A4',
    pageMargins: [wordMarginsMm.side, wordMarginsMm.top, wordMarginsMm.side, wordMarginsMm.bottom].map(
      (mm) => mm * mmPt
    ),
    defaultStyle: { font: plainFont, fontSize: 10, lineHeight: 1.15 },
    styles: { small: { fontSize: 8.5 } },
    content: lettered([
      {
        columns: [
          untitled
            ? { text: '' }
            : { stack: [{ text: head.title, fontSize: 16, bold: true }, { text: head.about }] },
          clinicSide(head)
        ]
      },
      rule(),
      ...content
    ]),
    // No heading stands alone at the foot of a sheet.
    pageBreakBefore: ({ headlineLevel }: Content, { getFollowingNodesOnPage }: Following) =>
      headlineLevel === 1 && getFollowingNodesOnPage().length === 0,
    footer: (sheet: number, of: number) =>
      lettered({
        margin: [wordMarginsMm.side * mmPt, 0, wordMarginsMm.side * mmPt, 0],
        columns: [
          { text: foot, style: 'small' },
          { text: of > 1 ? `${sheet} of ${of}` : '', style: 'small', width: 'auto', noWrap: true }
        ]
      })
  };
  return new Uint8Array(await pdfmake.createPdf(document).getBuffer());
}

const rule = (): Content => ({
  canvas: [{ type: 'line', x1: 0, y1: 0, x2: insideMm * mmPt, y2: 0, lineWidth: 0.6, lineColor: grey }],
  margin: [0, 4, 0, 10]
});
export const heading = (text: string): Content => ({
  text,
  fontSize: 12.5,
  bold: true,
  margin: [0, 6, 0, 2],
  headlineLevel: 1
});

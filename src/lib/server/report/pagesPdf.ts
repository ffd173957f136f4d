import pdfmake from 'pdfmake';
import { lettered, plainFont, setFonts } from './paperFonts';

/** Pictures on A4 sheets, one each, or lines of words; what the document says of itself is its title and no more. */
export interface PagesPdfWish {
  title: string;
  sheets: { jpeg: Uint8Array; words: string }[];
  lines: string[];
}

export async function pagesPdf({ title, sheets, lines }: PagesPdfWish): Promise<Uint8Array> {
  setFonts();
  const document = {
    info: { title, author: '', subject: '', keywords: '', creator: 'Yonder Tray', producer: 'Yonder Tray' },
    lang: 'en',
    pageSize: 'A4',
    pageMargins: [40, 48, 40, 48],
    defaultStyle: { font: plainFont, fontSize: 11, lineHeight: 1.3 },
    content: lettered([
      ...sheets.map(({ jpeg, words }, i) => ({
        stack: [
          { image: `data:image/jpeg;base64,${Buffer.from(jpeg).toString('base64')}`, fit: [515, 660] },
          { text: words, margin: [0, 10, 0, 0] }
        ],
        ...(i > 0 ? { pageBreak: 'before' } : {})
      })),
      ...(lines.length > 0 ? [{ text: title, bold: true, fontSize: 17, margin: [0, 0, 0, 10] }] : []),
      ...lines.map((line) => ({ text: line, margin: [0, 0, 0, 3] }))
    ])
  };
  return new Uint8Array(await pdfmake.createPdf(document as never).getBuffer());
}

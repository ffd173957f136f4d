import path from 'node:path';
import pdfmake from 'pdfmake';

/** Pictures on A4 sheets, one each, or lines of words; what the document says of itself is its title and no more. */
export interface PagesPdfWish {
  title: string;
  sheets: { jpeg: Uint8Array; words: string }[];
  lines: string[];
}

const fontFolder = path.resolve('node_modules/@fontsource/atkinson-hyperlegible-next/files');
const font = (weight: number) =>
  path.join(fontFolder, `atkinson-hyperlegible-next-latin-${weight}-normal.woff`);

export async function pagesPdf({ title, sheets, lines }: PagesPdfWish): Promise<Uint8Array> {
  // Nothing is fetched, and no file is read but the fonts that ship.
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((file) => path.resolve(file).startsWith(fontFolder));
  pdfmake.setFonts({ Atkinson: { normal: font(400), bold: font(700) } });
  const document = {
    info: { title, author: '', subject: '', keywords: '', creator: 'Yonder Tray', producer: 'Yonder Tray' },
    lang: 'en',
    pageSize: 'A4',
    pageMargins: [40, 48, 40, 48],
    defaultStyle: { font: 'Atkinson', fontSize: 11, lineHeight: 1.3 },
    content: [
      ...sheets.map(({ jpeg, words }, i) => ({
        stack: [
          { image: `data:image/jpeg;base64,${Buffer.from(jpeg).toString('base64')}`, fit: [515, 660] },
          { text: words, margin: [0, 10, 0, 0] }
        ],
        ...(i > 0 ? { pageBreak: 'before' } : {})
      })),
      ...(lines.length > 0 ? [{ text: title, bold: true, fontSize: 17, margin: [0, 0, 0, 10] }] : []),
      ...lines.map((line) => ({ text: line, margin: [0, 0, 0, 3] }))
    ]
  };
  return new Uint8Array(await pdfmake.createPdf(document as never).getBuffer());
}

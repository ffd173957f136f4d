import { PDFDocument, StandardFonts } from 'pdf-lib';

export interface Letter {
  /** What its file is called. */
  fileName: string;
  from: string;
  paragraphs: readonly string[];
}

const a4 = [595, 842] as const;
const margin = 70;
const size = 11;

/** A letter on one sheet, as another house would send it. */
export async function letterPdf({ from, paragraphs }: Letter, day: string): Promise<Uint8Array> {
  const paper = await PDFDocument.create();
  const font = await paper.embedFont(StandardFonts.TimesRoman);
  const page = paper.addPage([...a4]);
  let y = a4[1] - margin;
  const write = (text: string) => {
    page.drawText(text, { x: margin, y, size, font });
    y -= size * 1.45;
  };
  for (const line of [from, day]) write(line);
  y -= 2 * size;
  for (const paragraph of paragraphs) {
    let line = '';
    for (const word of paragraph.split(' ')) {
      const longer = line ? `${line} ${word}` : word;
      if (font.widthOfTextAtSize(longer, size) > a4[0] - 2 * margin) {
        write(line);
        line = word;
      } else line = longer;
    }
    write(line);
    y -= size;
  }
  return paper.save();
}

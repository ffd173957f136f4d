import { execFileSync } from 'node:child_process';

/** The pictures of a PDF as poppler finds them, and how large they stand there; a logo, which is no JPEG, is none. */
export const picturesOnPaper = (file: string): { page: number; widthMm: number; heightMm: number }[] =>
  execFileSync('pdfimages', ['-list', file])
    .toString()
    .split('\n')
    .filter((line) => line.includes(' jpeg '))
    .map((line) => {
      const [page, , , width, height, , , , , , , , xPpi, yPpi] = line.trim().split(/\s+/).map(Number);
      return { page, widthMm: (width / xPpi) * 25.4, heightMm: (height / yPpi) * 25.4 };
    });

/** All its text, in lines as they lie. */
export const wordsOnPaper = (file: string): string =>
  execFileSync('pdftotext', ['-layout', file, '-']).toString();

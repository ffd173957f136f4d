import reader from 'pdfjs-dist/build/pdf.min.mjs?url';
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url';

let loading: Promise<typeof import('pdfjs-dist')> | null = null;
/** Large, and wanted on few pages: fetched when the first sheet is looked at. */
function pdfjs(): Promise<typeof import('pdfjs-dist')> {
  return (loading ??= (import(/* @vite-ignore */ reader) as Promise<typeof import('pdfjs-dist')>).then(
    (it) => {
      it.GlobalWorkerOptions.workerSrc = worker;
      return it;
    }
  ));
}

/** A PDF that is open, to be drawn sheet by sheet. */
export interface OpenPdf {
  sheets: number;
  /** Of the first sheet, in mm. */
  sizeMm: { width: number; height: number };
  /** What can be read on a sheet, counted from 1. */
  words(sheet: number): Promise<string>;
  /** Draws a sheet so many screen pixels wide. */
  draw(sheet: number, canvas: HTMLCanvasElement, widthPx: number): Promise<void>;
  close(): void;
}

const mmPt = 72 / 25.4;

/** @param bytes they are copied: whoever gave them still has them */
export async function openPdf(bytes: Uint8Array): Promise<OpenPdf> {
  const task = (await pdfjs()).getDocument({ data: bytes.slice() });
  const document = await task.promise;
  const [, , width, height] = (await document.getPage(1)).view;
  return {
    sheets: document.numPages,
    sizeMm: { width: width / mmPt, height: height / mmPt },
    async words(sheet) {
      const { items } = await (await document.getPage(sheet)).getTextContent();
      return items.map((item) => ('str' in item ? `${item.str}${item.hasEOL ? '\n' : ''}` : '')).join('');
    },
    async draw(sheet, canvas, widthPx) {
      const page = await document.getPage(sheet);
      const viewport = page.getViewport({ scale: widthPx / page.getViewport({ scale: 1 }).width });
      canvas.width = Math.round(viewport.width);
      canvas.height = Math.round(viewport.height);
      await page.render({ canvas, viewport }).promise;
    },
    close: () => void task.destroy()
  };
}

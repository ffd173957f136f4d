// What is done in processes of their own: opening files from outside, and making small pictures.
import fs from 'node:fs';
import { lookAt } from '../advice/looking';
import { warmUp } from '../advice/warmUp';
import type { ComposeWish } from '../arrivals/composing';
import { makeShown } from '../arrivals/showing';
import type { ItemPacked, ItemWish } from '../dispatch/packedItem';
import type { VeiledWish } from '../deidentify/veiledWish';
import type { WritingWish } from '../deidentify/writingWish';
import type { FoundWriting } from '../deidentify/readWriting';
import { type OpenedPaper, openPaper as paper } from '../papers/openPaper';
import { beforeClinic, inClinic } from '../database/connection';
import type { LookingWish } from '../advice/lookingWish';
import { allLevels } from '../pictures/allLevels';
import type { LevelBytes } from '../pictures/levelBytes';
import { rasterOf } from '../pictures/levels';
import { readOrigin } from '../pictures/origin';
import { makePreview } from '../pictures/previewMaking';
import type { PreviewWish } from '../pictures/previewWish';
import { smallWebp } from '../pictures/small';
import { pictureRow } from '../pictures/views';
import type { FilmBoxMade, FilmBoxWish } from '../report/filmBox';
import type { PagesPdfWish } from '../report/pagesPdf';
import type { ResultsPdfWish } from '../report/resultsPdf';
import type { PrintPdfWish } from '../report/printPdf';
import type { LetterPdfWish } from '../letters/letterPdf';
import { cleanLogo } from '../clinics/cleanLogo';
import type { PdfMade } from '../report/made';
import type { VisitReportWish } from '../report/visitReportPdf';
import type { SamplesOutside, ShownOutside } from '../takenOut/outside';
import type { FileAnswer, ProcessNews } from './fileAnswer';
import { openFile as open } from '../pictures/decode/openFile';
import { type OpenedFile, Unusable } from '../pictures/decode/opened';
import { Problem } from '../problem';
import { upright } from '../../core/raster/orientation';
import { levelAtLeast } from '../../core/raster/pyramid';

/** A file that can't be used is an answer; anything else that goes wrong is thrown, and the process with it. */
async function answered<T>(work: () => Promise<T>): Promise<FileAnswer<T>> {
  // Whoever waits watches how much memory and time this process takes.
  tell({ pid: process.pid });
  try {
    return { done: await work() };
  } catch (error) {
    if (!(error instanceof Unusable)) throw error;
    const { code, sentence, next } = error;
    return { refused: { code, sentence, next } };
  }
}

const tell = (news: ProcessNews) => process.send?.(news);
const announce = (sampleBytes: number) => tell({ sampleBytes });

/** What a file is, its first frame at every size, and a small picture of that. */
export const openFile = ({ file }: { file: string }) =>
  answered(async (): Promise<{ opened: OpenedFile; levels: LevelBytes[]; small: Uint8Array }> => {
    const { opened, frame } = await open(fs.readFileSync(file), announce);
    const raster = await frame(0);
    const levels = await allLevels(raster, 0);
    return {
      opened,
      levels,
      small: await smallWebp({
        raster,
        look: opened.firstLook,
        orientation: upright,
        pixelAspect: opened.origin.pixelAspect
      })
    };
  });

/** What a file is, and no more: what arrives is looked at later. */
export const openFacts = ({ file }: { file: string }) =>
  answered(async (): Promise<OpenedFile> => (await open(fs.readFileSync(file), announce)).opened);

/** Numbered pictures as the frames of one. */
export const compose = async (wish: ComposeWish): Promise<void> =>
  (await import('../arrivals/composing')).composed(wish);

/** One frame of a loop at every size. */
export const openFrame = ({ file, frame }: { file: string; frame: number }) =>
  answered(async (): Promise<LevelBytes[]> => {
    const opened = await open(fs.readFileSync(file), announce);
    return allLevels(await opened.frame(frame), frame);
  });

/** What a paper is. */
export const openPaper = ({ file }: { file: string }) =>
  answered((): Promise<OpenedPaper> => paper(fs.readFileSync(file)));

/** What the computer sees in a take, read and kept from here. */
export const advise = async (wish: LookingWish): Promise<void> => {
  await lookAt(wish);
};

/** Before anybody asks: its way to the records, which may be away as yet, and what looks at takes. */
export const warm = async (): Promise<void> => {
  await beforeClinic('select 1 as warm').catch(() => {});
  warmUp();
};

/** Results of a visit on paper. */
export const pdf = async (wish: ResultsPdfWish): Promise<Uint8Array> =>
  // Rarely wanted, and much to load.
  (await import('../report/resultsPdf')).resultsPdf(wish);

/** The report of a visit on paper. */
export const report = async (wish: VisitReportWish): Promise<PdfMade> =>
  (await import('../report/visitReportPdf')).visitReportPdf(wish);

/** A letter. */
export const letter = async (wish: LetterPdfWish): Promise<PdfMade> =>
  (await import('../letters/letterPdf')).letterPdf(wish);

/** A logo that came from outside, as dots. */
export const logo = ({ file }: { file: string }) => answered(async () => cleanLogo(fs.readFileSync(file)));

/** Pictures laid out on sheets. */
export const print = async (wish: PrintPdfWish): Promise<PdfMade> =>
  (await import('../report/printPdf')).printPdf(wish);

/** Pictures or words as the pages of a PDF. */
export const pages = async (wish: PagesPdfWish): Promise<Uint8Array> =>
  (await import('../report/pagesPdf')).pagesPdf(wish);

/** What came in and belongs to nobody yet, as a picture to look at. */
export const arrival = makeShown;

/** A small picture, read and kept from here: whoever asked for it has nothing to do meanwhile. */
export const preview = (wish: PreviewWish): Promise<Uint8Array> => makePreview(wish);

/** A picture as a file that leaves: as it is seen, or as it was stored. */
export const shown = async ({ clinicId, pictureId, frame, ...wish }: ShownOutside): Promise<Uint8Array> => {
  const row = await inClinic(clinicId, (tx) => pictureRow(tx, pictureId, 'away'));
  const { longestPx, window } = wish;
  // What is shown of it small is told from a coarser level: as fine as it is shown, and no finer.
  const part = window ? Math.max(window.width, window.height) / Math.max(row.width, row.height) : 1;
  const level = longestPx ? levelAtLeast(row, longestPx / Math.min(1, part)) : 0;
  const raster = await rasterOf(clinicId, row, frame, level);
  // Fetched only now: a process that looks at takes needs no letters.
  const { shownFile } = await import('../takenOut/render');
  return shownFile({ ...wish, raster, full: row, pixelAspect: readOrigin(row.facts).pixelAspect });
};
/** The same with its words under it, as a film printer is given it; or as a JPEG that shows what it is given. */
export const film = async ({ shown: of, ...wish }: FilmBoxWish): Promise<FilmBoxMade> =>
  (await import('../report/filmBox')).filmBox(await shown(of), wish);
export const filmShown = async (wish: FilmBoxWish): Promise<Uint8Array> =>
  (await import('../report/filmBox')).filmJpeg(await film(wish));
export const samples = async ({
  clinicId,
  pictureId,
  frame,
  mmPerPixel
}: SamplesOutside): Promise<Uint8Array> => {
  const row = await inClinic(clinicId, (tx) => pictureRow(tx, pictureId, 'away'));
  const { samplesFile } = await import('../takenOut/render');
  return samplesFile(await rasterOf(clinicId, row, frame, 0), mmPerPixel);
};

/** One picture of a parcel as the files that leave, looked through. */
export const packed = async (wish: ItemWish): Promise<FileAnswer<ItemPacked>> => {
  try {
    return { done: await (await import('../dispatch/packItem')).packItem(wish) };
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    const { code, sentence, next } = error;
    return { refused: { code, sentence, next } };
  }
};

/** A picture with what is veiled masked, as a DICOM file. */
export const veiled = async (wish: VeiledWish): Promise<Uint8Array> =>
  (await import('../deidentify/veiledObject')).veiledObject(wish);

/** Writing that seems to stand in a picture, and what it says. */
export const writing = async ({ clinicId, pictureId }: WritingWish): Promise<FoundWriting[]> => {
  const row = await inClinic(clinicId, (tx) => pictureRow(tx, pictureId));
  const { findWriting } = await import('../deidentify/readWriting');
  const all = await findWriting(row.frames, (frame) => rasterOf(clinicId, row, frame, 0));
  return all.filter(({ doubtful }) => !doubtful);
};

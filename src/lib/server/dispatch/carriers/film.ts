import dimse from 'dcmjs-dimse';
import { dicomUid } from '../../../core/identity/uuid7';
import type { FilmSize, Medium } from '../../../core/print/film';
import { newId } from '../../ids';
import {
  NotDelivered,
  Unsure,
  type Wire,
  askOrWait,
  brokeOff,
  didNotAnswer,
  isAway,
  patienceMs
} from './carrier';
import { statusWords, titleUnknown } from './dimse';

const { Client, Dataset } = dimse;
const { NActionRequest, NCreateRequest, NDeleteRequest, NGetRequest, NSetRequest } = dimse.requests;
const { SopClass, Status } = dimse.constants;
/** The one printer that there is (PS3.4 H.4.6). */
const thePrinter = '1.2.840.10008.5.1.1.17';
/** Basic Grayscale and Basic Color Image Box (PS3.4 H.4.3). */
const greyBox = '1.2.840.10008.5.1.1.4';
const colourBox = '1.2.840.10008.5.1.1.4.1';

export interface FilmPrinter {
  host: string;
  port: number;
  called: string;
  calling: string;
  wire: Wire;
}

/** A picture of a film, 8 bits a sample: grey, or red, green and blue each by itself. */
export interface FilmImage {
  width: number;
  height: number;
  samples: Uint8Array;
  /** How wide it has to be on the film; null where the printer makes it as large as its place. */
  widthMm: number | null;
}

export interface Film {
  size: FilmSize;
  lying: boolean;
  medium: Medium;
  copies: number;
  colour: boolean;
  /** Columns and rows that the film is parted in. */
  across: number;
  down: number;
  images: readonly FilmImage[];
}

/** What is under a client, which asks and takes its leave by itself. */
interface Network {
  sendRequests(request: Request): void;
  sendAssociationReleaseRequest(): void;
  removeAllListeners(event: string): void;
}
type Request = Parameters<InstanceType<typeof Client>['addRequest']>[0];
interface Answer {
  getStatus(): number;
  getErrorComment?(): string;
  getAffectedSopInstanceUid?(): string | undefined;
  getDataset(): { getElements(): Record<string, unknown> } | undefined;
}
/** What is asked one after the other over one association; each question may follow from the answer before. */
type Talk<T> = Generator<[what: string, request: Request], T, Answer>;

/** How far a talk has come, where it matters when it breaks off. */
interface Far<T> {
  /** Whether the printer was told to print. */
  told: boolean;
  /** What became of it, once that is sure. */
  done: { done: T } | null;
}
/** Taking and printing a large picture may take a printer so much longer than a word. */
const slower = 8;

/** Talks with a printer over an association of its own. */
function talked<T>(printer: FilmPrinter, talk: Talk<T>, far: Far<T>): Promise<T> {
  const { host, port, called, calling, wire } = printer;
  return new Promise((resolve, reject) => {
    const client = new Client();
    const said: string[] = [];
    let settled = false;
    const end = (outcome: { done: T } | { failed: unknown }) => {
      if (settled) return;
      settled = true;
      clearTimeout(limit);
      const failed = 'failed' in outcome ? outcome.failed : null;
      wire({
        request: `Print to ${called} at ${host}:${port}`,
        headers: { 'calling AE title': calling, 'called AE title': called },
        parts: [],
        answer: [...said, ...(failed instanceof NotDelivered ? [failed.reason] : [])].join(', '),
        answerHeaders: {},
        body: ''
      });
      if ('done' in outcome) resolve(outcome.done);
      else reject(failed);
    };
    const broken = (why: NotDelivered) =>
      end(
        far.done ?? {
          failed: far.told ? new Unsure(`${why.reason} It was told to print by then.`, askAtPrinter) : why
        }
      );
    let limit = setTimeout(() => {}, 0);
    const patient = () => {
      clearTimeout(limit);
      limit = setTimeout(() => {
        broken(didNotAnswer('printer'));
        client.abort?.();
      }, slower * patienceMs());
    };
    const network = () => (client as unknown as { network?: Network }).network;
    /** Asks the next question, or is done. */
    const step = (next: IteratorResult<[string, Request], T>) => {
      if (next.done) {
        end({ done: next.value });
        network()?.sendAssociationReleaseRequest();
        return null;
      }
      const [what, request] = next.value;
      patient();
      (request as unknown as NodeJS.EventEmitter).on('response', (answer: Answer) => {
        if (settled) return;
        said.push(`${what}: ${statusWords(answer)}`);
        try {
          const following = step(talk.next(answer));
          if (following) network()!.sendRequests(following);
        } catch (failed) {
          end({ failed });
          network()?.sendAssociationReleaseRequest();
        }
      });
      return request;
    };
    const on = <Of extends unknown[]>(name: string, act: (...of: Of) => void) =>
      (client as unknown as NodeJS.EventEmitter).on(name, act);
    on('networkError', (error: Error) =>
      broken(/ECONNREFUSED|ENOTFOUND/.test(error.message) ? isAway('printer') : brokeOff('printer'))
    );
    on('associationRejected', () => end({ failed: titleUnknown('printer', calling, called) }));
    on('closed', () => broken(brokeOff('printer')));
    client.addRequest(step(talk.next())!);
    client.send(host, port, calling, called, {
      connectTimeout: patienceMs(),
      associationTimeout: patienceMs(),
      pduTimeout: slower * patienceMs()
    });
    // It would take its leave before the next question: each follows from an answer.
    network()?.removeAllListeners('done');
  });
}

const askAtPrinter = 'Look whether the film came out before you try again.';

function demand(answer: Answer, what: string): void {
  const status = answer.getStatus();
  if (status === Status.Success || isWarning(status)) return;
  // Out of room for the picture, or busy with the films of others (PS3.4 H.4).
  const later = status === 0xc605 || status === 0xc602 || status === Status.ResourceLimitation;
  throw new NotDelivered(
    `The printer ${what}: ${statusWords(answer)}.`,
    !later,
    later
      ? askOrWait
      : 'Ask the printer’s keeper what it takes: sizes, how many pictures a film, and its medium are set in Settings.'
  );
}
const isWarning = (status: number) => (status & 0xf000) === 0xb000 || status === 0x0107 || status === 0x0116;

const metaOf = (colour: boolean): string =>
  colour ? SopClass.BasicColorPrintManagementMeta : SopClass.BasicGrayscalePrintManagementMeta;

function* statusAsked(colour: boolean): Talk<void> {
  const answer = yield [
    'N-GET (printer)',
    new NGetRequest(SopClass.Printer, thePrinter, ['PrinterStatus', 'PrinterStatusInfo'], metaOf(colour))
  ];
  demand(answer, 'does not say how it is');
  const { PrinterStatus: status, PrinterStatusInfo: info } = answer.getDataset()?.getElements() ?? {};
  if (status === 'FAILURE')
    throw new NotDelivered(
      `The printer can’t print${info ? ` (${String(info)})` : ''}.`,
      false,
      'See to the printer; it is tried again by itself.'
    );
}

/** Whether a printer answers, and could print (N-GET of its status). */
export const askPrinter = (printer: FilmPrinter, colour: boolean): Promise<void> =>
  talked(printer, statusAsked(colour), { told: false, done: null });

/** What a printer warns of that changes what is seen, by status (PS3.4 H.4.2, H.4.3). */
const warnings: Readonly<Record<number, string>> = {
  0xb604: 'The printer made a picture smaller to fit.',
  0xb609: 'The printer cut a picture to fit.',
  0xb60a: 'The printer left out samples of a picture to fit.'
};

/**
 * Prints one film: a session with one film box, its pictures each into its place, and the order to print (PS3.4 H).
 * Resolves to what the printer warned of, which is nothing where all is well.
 * @throws NotDelivered where it is not printed; Unsure where the printer was told to and nobody knows what became of it
 */
export function printFilm(printer: FilmPrinter, film: Film): Promise<string> {
  const far: Far<string> = { told: false, done: null };
  const remarks = new Set<string>();
  const heard = (answer: Answer, what: string) => {
    demand(answer, what);
    const warned = warnings[answer.getStatus()];
    if (warned) remarks.add(warned);
  };
  function* talk(): Talk<string> {
    const { colour, images } = film;
    const meta = metaOf(colour);
    yield* statusAsked(colour);
    const create = (sopClass: string, of: Record<string, unknown>) => {
      const uid = dicomUid(newId());
      const request = new NCreateRequest(sopClass, uid, meta);
      request.setDataset(new Dataset(of));
      return { uid, request };
    };
    const session = create(SopClass.BasicFilmSession, {
      NumberOfCopies: String(film.copies),
      PrintPriority: 'MED',
      MediumType: film.medium
    });
    let answer = yield ['N-CREATE (session)', session.request];
    heard(answer, 'takes no such order');
    const sessionUid = answer.getAffectedSopInstanceUid?.() ?? session.uid;
    const box = create(SopClass.BasicFilmBox, {
      ImageDisplayFormat: `STANDARD\\${film.across},${film.down}`,
      FilmOrientation: film.lying ? 'LANDSCAPE' : 'PORTRAIT',
      FilmSizeID: film.size,
      MagnificationType: 'CUBIC',
      // Film that is bright where nothing is blinds whoever holds it to the light; on paper it would be ink.
      BorderDensity: film.medium === 'PAPER' ? 'WHITE' : 'BLACK',
      EmptyImageDensity: film.medium === 'PAPER' ? 'WHITE' : 'BLACK',
      ReferencedFilmSessionSequence: [
        { ReferencedSOPClassUID: SopClass.BasicFilmSession, ReferencedSOPInstanceUID: sessionUid }
      ]
    });
    answer = yield ['N-CREATE (film)', box.request];
    heard(answer, 'takes no such film');
    const boxUid = answer.getAffectedSopInstanceUid?.() ?? box.uid;
    const given = answer.getDataset()?.getElements().ReferencedImageBoxSequence as
      { ReferencedSOPInstanceUID: string }[] | { ReferencedSOPInstanceUID: string } | undefined;
    const places = given ? [given].flat() : [];
    if (places.length < images.length)
      throw new NotDelivered(
        `The printer gave ${places.length} places for ${images.length} pictures.`,
        true,
        'Choose fewer pictures a film.'
      );
    for (const [i, image] of images.entries()) {
      const place = new NSetRequest(colour ? colourBox : greyBox, places[i].ReferencedSOPInstanceUID, meta);
      place.setDataset(new Dataset(imageBox(image, i + 1, colour)));
      answer = yield [`N-SET (picture ${i + 1})`, place];
      heard(answer, `does not take picture ${i + 1}`);
    }
    far.told = true;
    answer = yield ['N-ACTION (print)', new NActionRequest(SopClass.BasicFilmBox, boxUid, 1, meta)];
    heard(answer, 'does not print it');
    // It is printed: whatever the printer says of putting the order away changes nothing.
    far.done = { done: [...remarks].join(' ') };
    yield ['N-DELETE (session)', new NDeleteRequest(SopClass.BasicFilmSession, sessionUid, meta)];
    return far.done.done;
  }
  return talked(printer, talk(), far);
}

/** A picture in its place; one of a size that matters is never made smaller or cut. */
function imageBox({ width, height, samples, widthMm }: FilmImage, position: number, colour: boolean) {
  const even = new Uint8Array(samples.length + (samples.length % 2));
  even.set(samples);
  const image = {
    SamplesPerPixel: colour ? 3 : 1,
    PhotometricInterpretation: colour ? 'RGB' : 'MONOCHROME2',
    ...(colour ? { PlanarConfiguration: 1 } : {}),
    Rows: height,
    Columns: width,
    PixelAspectRatio: ['1', '1'],
    BitsAllocated: 8,
    BitsStored: 8,
    HighBit: 7,
    PixelRepresentation: 0,
    PixelData: [even.buffer],
    _vrMap: { PixelData: 'OW' }
  };
  return {
    ImageBoxPosition: position,
    ...(widthMm === null
      ? {}
      : { RequestedImageSize: String(widthMm), RequestedDecimateCropBehavior: 'FAIL' }),
    [colour ? 'BasicColorImageSequence' : 'BasicGrayscaleImageSequence']: [image]
  };
}

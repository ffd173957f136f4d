// One picture of a parcel as the files that leave. In a process of its own: it decodes, draws and reads.
import { createHash } from 'node:crypto';
import sharp from 'sharp';
import { placesInWords } from '../../core/anatomy/place';
import type { Notation } from '../../core/anatomy/teeth';
import { type Leaving, deidentified } from '../../core/deidentify/deidentify';
import { movedDate } from '../../core/deidentify/dateShift';
import type { FoundName } from '../../core/deidentify/parcelCheck';
import { termsInText, termsSeen, termsStillIn, withoutTerms } from '../../core/deidentify/residual';
import type { Dataset } from '../../core/dicom/dataset';
import { pixelDataTag } from '../../core/dicom/dictionary';
import { pixelBody } from '../../core/dicom/pixelBody';
import { writeDicomFile } from '../../core/dicom/write';
import { type Veils, masksSomething, veiled } from '../../core/picture/layers/veils/veils';
import type { KeptView } from '../../core/picture/layers/kept/kept';
import { drawingsToKeep, keptOf } from '../../core/picture/keptViews';
import { scaleInUse } from '../../core/picture/pictureLayers';
import {
  type PictureView,
  aspectOf,
  lookOf,
  orientationOf,
  partOf,
  pictureName,
  placesOf
} from '../../core/picture/pictureView';
import { readingsOf, wordsOf } from '../../core/picture/readings';
import type { Raster } from '../../core/raster/raster';
import { dayOf } from '../../core/time/clinicTime';
import { Clinic } from '../clinics/clinicModel';
import { type Tx, inClinic, within } from '../database/connection';
import { datasetLeaving } from '../deidentify/datasetLeaving';
import { pictureLeaving } from '../deidentify/leaving';
import { veilsOf } from '../deidentify/lettering';
import { findWriting } from '../deidentify/readWriting';
import { ruleInUse } from '../deidentify/rules';
import { reportBeside, stateBeside } from '../objects/besidePicture';
import { objectFactsOf } from '../objects/pictureObject';
import { maySay } from '../objects/saidOf';
import { rasterOf } from '../pictures/levels';
import type { PictureRow } from '../pictures/queries';
import { pictureRow, viewsOf } from '../pictures/views';
import { samplesFile, shownFile } from '../takenOut/render';
import { visitHead } from '../visits/visitHead';
import type { ItemPacked, ItemWish, PackedAbout, PackedFile } from './packedItem';

/** More frames than this are not written as pictures of their own. */
const mostFrameFiles = 600;

interface Of {
  wish: ItemWish;
  row: PictureRow;
  view: PictureView;
  veils: Veils | null;
  leaving: Leaving | null;
  notation: Notation;
  timeZone: string;
  language: string;
}

export async function packItem(wish: ItemWish): Promise<ItemPacked> {
  const of = await inClinic(wish.clinicId, (tx) => gathered(tx, wish));
  const files = await filesOf(of);
  const about = await inClinic(wish.clinicId, (tx) => aboutOf(tx, of));
  const found = wish.check && of.leaving ? await foundIn(of, files, about) : [];
  const hash = createHash('sha256');
  for (const { bytes, kept } of files) hash.update(bytes).update(kept ? JSON.stringify(kept) : '');
  return { about, files, found, digest: hash.digest('hex') };
}

async function gathered(tx: Tx, wish: ItemWish): Promise<Of> {
  const row = await pictureRow(tx, wish.pictureId);
  const [view] = await viewsOf(tx, [row], wish.madeBy);
  const clinic = (await Clinic.findByPk(tx.clinicId, within(tx)))!;
  const away = wish.identity === 'deidentified';
  return {
    wish,
    row,
    view,
    veils: away ? ((await veilsOf(tx, [row.picture_id])).get(row.picture_id) ?? null) : null,
    leaving: away ? await pictureLeaving(tx, row, await ruleInUse(tx, wish.ruleId), wish.as) : null,
    notation: clinic.notation as Notation,
    timeZone: clinic.timeZone,
    language: clinic.language
  };
}

function filesOf(of: Of): Promise<PackedFile[]> {
  switch (of.wish.packing.format) {
    case 'dicom':
      return objectsOf(of);
    case 'package':
      return both(of);
    case 'csv':
      return Promise.resolve([]);
    case 'pdf':
      return shownOf(of, 'jpeg', 0);
    case 'png':
    case 'jpeg':
      return everyFrame(of, (frame) => shownOf(of, of.wish.packing.format as 'png' | 'jpeg', frame));
    default:
      return everyFrame(of, (frame) => samplesOf(of, frame));
  }
}

async function both(of: Of): Promise<PackedFile[]> {
  const objects = await objectsOf(of);
  const shown = await everyFrame(of, (frame) => shownOf(of, 'jpeg', frame));
  return [
    ...objects,
    ...shown.map((file): PackedFile => ({ ...file, part: 'shown' })),
    ...(await keptViewsOf(of))
  ];
}

/** Views that were kept of a picture, as they were kept; what is drawn in them only where drawings go along. */
async function keptViewsOf(of: Of): Promise<PackedFile[]> {
  const files: PackedFile[] = [];
  // A case of the shelf shows its pictures and nothing else.
  if (of.wish.as) return files;
  for (const { kept } of keptOf([of.view])) {
    const bytes = await shownFile({
      raster: await rasterLeaving(of, kept.frame),
      pixelAspect: of.view.pixelAspect,
      look: kept.look,
      orientation: kept.orientation,
      window: kept.window,
      drawings: kept.drawn && drawingsLeave(of) ? keptDrawings(of, kept) : [],
      bar: null,
      as: 'jpeg'
    });
    files.push({ part: 'kept', ending: 'jpg', frame: null, bytes, kept: keptWords(of, kept) });
  }
  return files;
}

const wordsLeaving = ({ leaving }: Of, words: string) =>
  leaving ? withoutTerms(words, leaving.terms) : words;
const keptDrawings = (of: Of, kept: KeptView) =>
  kept.drawings.map((each) => ({ ...each, words: wordsLeaving(of, each.words) }));
/** A name and a remark are free words: where those don't leave, a kept view has neither. */
const keptWords = (of: Of, { name, remark }: KeptView) =>
  of.leaving && of.leaving.rule.graphics !== 'cleaned'
    ? { name: '', remark: '' }
    : { name: wordsLeaving(of, name), remark: wordsLeaving(of, remark) };

async function everyFrame(
  { row }: Of,
  make: (frame: number) => Promise<PackedFile[]>
): Promise<PackedFile[]> {
  const files: PackedFile[] = [];
  for (let frame = 0; frame < Math.min(row.frames, mostFrameFiles); frame++)
    files.push(...(await make(frame)).map((file) => ({ ...file, frame: row.frames > 1 ? frame : null })));
  return files;
}

async function rasterLeaving({ wish, row, veils }: Of, frame: number): Promise<Raster> {
  const raster = await rasterOf(wish.clinicId, row, frame, 0);
  return veils && masksSomething(veils) ? veiled(raster, veils, frame) : raster;
}

/** The picture's own object, and beside it how it was seen and what was measured, where that goes along. */
async function objectsOf(of: Of): Promise<PackedFile[]> {
  const { wish, row, view, leaving } = of;
  const picture = await datasetLeaving(wish.clinicId, wish.pictureId, wish);
  const sets: [PackedFile['part'], Dataset][] = [['picture', picture]];
  const may = (which: 'graphics' | 'structured') => !leaving || leaving.rule[which] === 'cleaned';
  if (wish.packing.drawings === 'beside')
    await inClinic(wish.clinicId, async (tx) => {
      const { instance } = await objectFactsOf(tx, row, new Uint8Array());
      const made = (what: string, number: number) => ({
        seriesUid: derivedUid(`${view.visitId} ${what}`),
        instanceUid: derivedUid(`${instance.uid} ${what} ${view.seq}`),
        number,
        date: instance.date,
        time: instance.time,
        by: wish.madeBy
      });
      const out = (set: Dataset) => (leaving ? deidentified(set, leaving) : set);
      if (may('graphics'))
        sets.push(['state', out(await stateBeside(tx, row, view, made('state', row.number)))]);
      const report = may('structured') ? await reportBeside(tx, row, view, made('report', row.number)) : null;
      if (report) sets.push(['report', out(report)]);
    });
  return sets.map(([part, set]) => ({
    part,
    ending: 'dcm',
    frame: null,
    bytes: writeDicomFile(set),
    set: set.filter(({ tag }) => tag !== pixelDataTag),
    ...(wish.apart && part === 'picture' && travelsApart(row) ? { body: pixelBody(set) } : {})
  }));
}

/** Whether a picture's body can travel beside what is said of it: a still that came without attributes. */
const travelsApart = (row: PictureRow): boolean => maySay(row) && row.frames === 1;

/** The same number for the same thing, however often it is packed. */
function derivedUid(of: string): string {
  const hex = createHash('sha256').update(`yonder ${of}`).digest('hex').slice(0, 32);
  return `2.25.${BigInt(`0x${hex}`)}`;
}

const drawingsLeave = ({ wish, leaving }: Of): boolean =>
  wish.packing.drawings !== 'out' && (!leaving || leaving.rule.graphics === 'cleaned');

/** Words that are drawn into a picture, without names where it leaves without its identity. */
function drawingsOf(of: Of) {
  const { wish, view, notation, language } = of;
  if (wish.packing.drawings !== 'in' && wish.packing.format !== 'package') return [];
  if (!drawingsLeave(of)) return [];
  const aspect = aspectOf(view);
  return drawingsToKeep(
    readingsOf(view.layers, scaleInUse(view.layers, view.fileScale), aspect),
    aspect,
    (reading) => wordsLeaving(of, wordsOf(reading, notation, language))
  );
}

async function shownOf(of: Of, as: 'png' | 'jpeg', frame: number): Promise<PackedFile[]> {
  const { view } = of;
  const bytes = await shownFile({
    raster: await rasterLeaving(of, frame),
    pixelAspect: view.pixelAspect,
    look: lookOf(view),
    orientation: orientationOf(view),
    window: partOf(view) ?? null,
    drawings: drawingsOf(of),
    bar: null,
    as
  });
  return [{ part: 'picture', ending: as === 'png' ? 'png' : 'jpg', frame, bytes }];
}

async function samplesOf(of: Of, frame: number): Promise<PackedFile[]> {
  const { wish, view } = of;
  const raster = await rasterLeaving(of, frame);
  const scale = scaleInUse(view.layers, view.fileScale);
  const file = (ending: string, bytes: Uint8Array, part: PackedFile['part'] = 'picture'): PackedFile => ({
    part,
    ending,
    frame,
    bytes
  });
  switch (wish.packing.format) {
    case 'tiff':
      return [file('tif', await samplesFile(raster, scale ? [scale.mmPerPixelX, scale.mmPerPixelY] : null))];
    case 'png16':
      return [file('png', await storedPng(raster))];
    default:
      return [
        file('raw', new Uint8Array(raster.data.buffer, raster.data.byteOffset, raster.data.byteLength)),
        file('json', new TextEncoder().encode(rawHeader(of, raster)), 'header')
      ];
  }
}

/** Samples as they are stored, 8 or 16 bits. */
async function storedPng({ data, width, height, channels }: Raster): Promise<Uint8Array> {
  const wide = data instanceof Uint16Array;
  const space = channels === 3 ? (wide ? 'rgb16' : 'srgb') : wide ? 'grey16' : 'b-w';
  return sharp(data, { raw: { width, height, channels } }).toColourspace(space).png().toBuffer();
}

/** What has to be known to read raw samples. */
function rawHeader({ view }: Of, raster: Raster): string {
  const scale = scaleInUse(view.layers, view.fileScale);
  return `${JSON.stringify(
    {
      width: raster.width,
      height: raster.height,
      channels: raster.channels,
      bitsStored: raster.bitsStored,
      bytesPerSample: raster.data.BYTES_PER_ELEMENT,
      byteOrder: 'little',
      order: 'rows from the top, colours of a pixel side by side',
      addToStored: raster.offset,
      mmPerPixel: scale ? { x: scale.mmPerPixelX, y: scale.mmPerPixelY } : null
    },
    null,
    2
  )}\n`;
}

/** What is told of the picture in names and pages: by its pseudonym where it leaves by that. */
async function aboutOf(tx: Tx, of: Of): Promise<PackedAbout> {
  const { view, leaving, timeZone, notation, row } = of;
  const { patient } = await visitHead(tx, view.visitId);
  const day = dayOf(row.taken_at, timeZone);
  const clean = (words: string) => (leaving ? withoutTerms(words, leaving.terms) : words);
  return {
    pictureId: view.pictureId,
    who: leaving
      ? leaving.pseudonym.name
      : `${patient.familyName} ${patient.givenName}`.trim() || patient.recordNumber,
    number: leaving ? leaving.pseudonym.name : patient.recordNumber,
    date: leaving ? dayLeaving(leaving, day) : day,
    // What a file was called, or what somebody called the picture, may be a name.
    what: leaving ? clean(view.slot?.name ?? view.kind) : pictureName(view),
    place: placesInWords(placesOf(view), notation),
    kind: view.kind,
    frames: view.frames,
    frameMs: view.frameMs,
    width: view.width,
    height: view.height
  };
}

function dayLeaving({ rule, pseudonym }: Leaving, day: string): string {
  if (rule.dates === 'kept') return day;
  if (rule.dates === 'removed') return 'undated';
  return movedDate(day.replaceAll('-', ''), '', pseudonym).replace(/^(\d{4})(\d{2})(\d{2})$/, '$1-$2-$3');
}

/** Whatever of a name or a number still stands in what would leave: in attributes, words, properties and pixels. */
async function foundIn(of: Of, files: readonly PackedFile[], about: PackedAbout): Promise<FoundName[]> {
  const { leaving, row, wish } = of;
  const { terms } = leaving!;
  const found: FoundName[] = [];
  const told = [about.what, about.place, wish.packing.words].join('\n');
  for (const term of termsInText(told, terms)) found.push({ term, where: 'the words that go along' });
  for (const { set, bytes, ending, part } of files) {
    if (set) for (const each of termsStillIn(set, terms)) found.push(each);
    // A header of ours holds figures and words of the format, and nothing that anybody wrote.
    else if (part !== 'header' && ending !== 'raw') found.push(...(await inProperties(bytes, terms)));
  }
  const ofViews = files.flatMap(({ kept }) => (kept ? [kept.name, kept.remark] : [])).join('\n');
  for (const term of termsInText(ofViews, terms)) found.push({ term, where: 'the words of a kept view' });
  const ofKept = drawingsLeave(of) ? keptOf([of.view]).flatMap(({ kept }) => keptDrawings(of, kept)) : [];
  for (const drawing of [...drawingsOf(of), ...ofKept])
    for (const term of termsInText(drawing.words, terms)) found.push({ term, where: 'what is drawn on it' });
  if (files.length === 0) return found;
  const writing = await findWriting(row.frames, (frame) => rasterLeaving(of, frame));
  for (const { says, frames, left, top, width, height } of writing)
    for (const term of termsSeen(says, terms))
      found.push({
        term,
        where: 'the picture itself',
        says,
        area: { left, top, width, height },
        frame: frames?.[0] ?? 0
      });
  return found;
}

/** Properties of a picture file: what stands in its EXIF, XMP, IPTC and comments. */
async function inProperties(bytes: Uint8Array, terms: readonly string[]): Promise<FoundName[]> {
  const { exif, xmp, iptc, comments } = await sharp(bytes).metadata();
  const text = [exif, xmp, iptc].map((part) => part?.toString('latin1') ?? '').join('\n');
  const said = [text, ...(comments ?? []).map((each) => `${each.keyword} ${each.text}`)].join('\n');
  return termsInText(said, terms).map((term) => ({ term, where: 'the properties of the file' }));
}

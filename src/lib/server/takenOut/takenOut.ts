import Papa from 'papaparse';
import { z } from 'zod';
import type { Notation } from '../../core/anatomy/teeth';
import { dicomDate, dicomTime } from '../../core/dicom/dates';
import { writeDicomFile } from '../../core/dicom/write';
import { scaleBar } from '../../core/measurement/scaleBar';
import { drawingsToKeep, keptOf } from '../../core/picture/keptViews';
import { scaleInUse } from '../../core/picture/pictureLayers';
import { type PictureView, aspectOf, lookOf, orientationOf, partOf } from '../../core/picture/pictureView';
import { readingsOf, wordsOf } from '../../core/picture/readings';
import { readingColumns, readingsTable } from '../../core/picture/readingsTable';
import { orientedSize } from '../../core/raster/orientation';
import { writeAudit } from '../audit/write';
import { Clinic } from '../clinics/clinicModel';
import { inClinic, within } from '../database/connection';
import { newUid } from '../ids';
import { reportBeside, stateBeside } from '../objects/besidePicture';
import { type Caller, demand } from '../people/caller';
import { picturesOfVisit } from '../pictures/queries';
import { pictureRow, viewsOf } from '../pictures/views';
import { Problem, notFound } from '../problem';
import { visitHead } from '../visits/visitHead';
import { samplesOutside, shownOutside } from '../work/processes';

export const outKinds = ['png', 'jpeg', 'tiff', 'presentation', 'report'] as const;
export type OutKind = (typeof outKinds)[number];
const yes = z
  .enum(['yes', 'no'])
  .default('no')
  .transform((said) => said === 'yes');
export const outWish = z.object({
  as: z.enum(outKinds),
  drawings: yes,
  bar: yes,
  /** A kept view of the picture, instead of the picture as it is seen now. */
  kept: z.string().max(60).optional(),
  frame: z.coerce.number().int().min(0).default(0)
});
export type OutWish = z.infer<typeof outWish>;

export interface OutFile {
  bytes: Uint8Array;
  mediaType: string;
  fileName: string;
}

/** How long a bar may be, of the width that is shown. */
const barShare = 0.25;

/** What people called it or its slot; what its own file was called may be a patient's name. */
const plainName = ({ layers, slot }: PictureView): string => layers.about?.name || slot?.name || 'picture';

function fileNameOf(view: PictureView, ending: string, name = plainName(view)): string {
  const plain = name.replace(/\.[a-z]{3,4}$/i, '').replace(/[^\p{L}\p{N}]+/gu, '-');
  return `${plain.replace(/^-|-$/g, '') || 'picture'}-${view.takenAt.slice(0, 10)}.${ending}`;
}

/** A picture as a file: as it is seen, as it was stored, or as an object that tells how it was seen or measured. */
export async function takeOut(caller: Caller, pictureId: string, wish: OutWish): Promise<OutFile> {
  await demand(caller, 'send', pictureId);
  const { row, view } = await inClinic(caller.clinicId, async (tx) => {
    const found = await pictureRow(tx, pictureId);
    const [seen] = await viewsOf(tx, [found], caller.userId);
    await writeAudit(tx, caller, 'taken out', pictureId, {
      patientId: found.patient_id,
      as: wish.kept ? `${wish.as} of a kept view` : wish.as
    });
    return { row: found, view: seen };
  });
  if (wish.frame >= view.frames) throw notFound('This frame');
  const scale = scaleInUse(view.layers, view.fileScale);
  const of = { clinicId: caller.clinicId, pictureId };

  if (wish.as === 'tiff')
    return {
      bytes: await samplesOutside({
        ...of,
        frame: wish.frame,
        mmPerPixel: scale ? [scale.mmPerPixelX, scale.mmPerPixelY] : null
      }),
      mediaType: 'image/tiff',
      fileName: fileNameOf(view, 'tiff')
    };

  if (wish.as === 'png' || wish.as === 'jpeg') {
    const kept = wish.kept === undefined ? null : keptOf([view]).find(({ id }) => id === wish.kept)?.kept;
    if (kept === undefined) throw notFound('This kept view');
    const now = () =>
      drawingsToKeep(readingsOf(view.layers, scale, aspectOf(view)), aspectOf(view), (reading) =>
        wordsOf(reading, caller.notation, caller.language)
      );
    const orientation = kept?.orientation ?? orientationOf(view);
    const window = kept?.window ?? partOf(view) ?? null;
    const width = window?.width ?? orientedSize(view, orientation).width;
    return {
      bytes: await shownOutside({
        ...of,
        frame: kept?.frame ?? wish.frame,
        look: kept?.look ?? lookOf(view),
        orientation,
        window,
        drawings: wish.drawings ? (kept?.drawings ?? now()) : [],
        bar: wish.bar ? scaleBar(scale, width * barShare) : null,
        as: wish.as
      }),
      mediaType: `image/${wish.as}`,
      fileName: fileNameOf(view, wish.as === 'png' ? 'png' : 'jpg', kept?.name || undefined)
    };
  }
  const bytes = await inClinic(caller.clinicId, async (tx) => {
    const zone = (await Clinic.findByPk(tx.clinicId, within(tx)))?.timeZone ?? 'UTC';
    const now = new Date();
    const made = {
      seriesUid: newUid(),
      instanceUid: newUid(),
      number: 1,
      date: dicomDate(now, zone),
      time: dicomTime(now, zone),
      by: caller.userId
    };
    if (wish.as === 'presentation') return writeDicomFile(await stateBeside(tx, row, view, made));
    const report = await reportBeside(tx, row, view, made);
    if (!report)
      throw new Problem(
        'nothing-measured',
        'There is nothing to report: no reading of this picture gives a value.',
        'Measure something first, or take the picture out as it is seen.',
        409
      );
    return writeDicomFile(report);
  });
  const ending = wish.as === 'presentation' ? 'how-it-was-seen.dcm' : 'readings.dcm';
  return { bytes, mediaType: 'application/dicom', fileName: fileNameOf(view, ending) };
}

/** All readings of a visit as a table that any program opens. Cells that look like formulas are told to be words. */
export async function readingsOut(caller: Caller, visitId: string): Promise<OutFile> {
  await demand(caller, 'send', visitId);
  const rows = await inClinic(caller.clinicId, async (tx) => {
    const { visit } = await visitHead(tx, visitId);
    const views = await viewsOf(tx, await picturesOfVisit(tx, visitId), caller.userId);
    const clinic = await Clinic.findByPk(tx.clinicId, within(tx));
    await writeAudit(tx, caller, 'taken out', visitId, { patientId: visit.patientId, as: 'readings' });
    return readingsTable(views, clinic!.notation as Notation);
  });
  const text = Papa.unparse(
    { fields: [...readingColumns], data: rows },
    { escapeFormulae: /^[=+@\t\r]|^-(?![\d.])/, newline: '\r\n' }
  );
  return {
    bytes: new TextEncoder().encode(`\uFEFF${text}\r\n`),
    mediaType: 'text/csv; charset=utf-8',
    fileName: 'readings.csv'
  };
}

import { z } from 'zod';
import { lookOf, orientationOf } from '../../core/picture/pictureView';
import { upright } from '../../core/raster/orientation';
import { type Raster, samplesFrom } from '../../core/raster/raster';
import { blobStream, wholeBlob } from '../blobs/keep';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { awayOf } from '../pictures/awayQueries';
import { viewsAsTheyLay } from '../pictures/awayViews';
import { openFile } from '../pictures/decode/openFile';
import { samplesMediaType } from '../pictures/origin';
import { smallWebp } from '../pictures/small';
import { notFound } from '../problem';
import { arrivalOutside } from '../work/processes';
import { type AboutPicture, isPicture, readAbout } from './about';
import { found } from './arrivals';
import { arrivalRow, putShown, shownOf } from './queries';

/** Large enough to see whose it is. */
const shownPx = 1400;
/** Of a series that is scrolled through. */
const framePx = 900;

/** Whether somebody may see an arrival, and how it looks if that was made before. @throws Problem */
export async function mayLook(caller: Caller, arrivalId: string): Promise<{ shown: Uint8Array | null }> {
  await demand(caller, 'view charts', arrivalId);
  const kept = z.uuid().safeParse(arrivalId).success
    ? await inClinic(caller.clinicId, (tx) => shownOf(tx, arrivalId))
    : undefined;
  if (!kept) throw notFound('This arrival');
  return kept;
}

/** An arrival as it looks; of several frames the one that is asked for. */
export async function arrivalShown(caller: Caller, arrivalId: string, frame = 0): Promise<Uint8Array> {
  const { shown } = await mayLook(caller, arrivalId);
  if (frame === 0 && shown) return shown;
  return arrivalOutside({ clinicId: caller.clinicId, arrivalId, frame });
}

/** Makes it, and keeps it if it is the first frame. Called outside the web process. */
export async function makeShown({
  clinicId,
  arrivalId,
  frame = 0
}: {
  clinicId: string;
  arrivalId: string;
  frame?: number;
}): Promise<Uint8Array> {
  const { row, lay } = await inClinic(clinicId, async (tx) => {
    const asked = await arrivalRow(tx, arrivalId);
    const away = asked?.picture_id ? await awayOf(tx, [asked.picture_id]) : [];
    return { row: asked, lay: (await viewsAsTheyLay(tx, away, '')).at(0)?.picture };
  });
  const about = row && readAbout(row.about);
  if (!about || !isPicture(about) || frame >= about.frames) throw notFound('This arrival');
  const raster = await rasterOf(about, await wholeBlob(clinicId, row.original_sha256), frame);
  const { pixelAspect } = about;
  // What was in a chart is shown as it was seen there.
  const look = lay ? lookOf(lay) : about.firstLook;
  const orientation = lay ? orientationOf(lay) : upright;
  const longestPx = frame === 0 ? shownPx : framePx;
  const webp = await smallWebp({ raster, look, orientation, pixelAspect, longestPx });
  if (frame === 0) await inClinic(clinicId, (tx) => putShown(tx, arrivalId, webp));
  return webp;
}

async function rasterOf(about: AboutPicture, bytes: Uint8Array, frame: number): Promise<Raster> {
  if (about.mediaType !== samplesMediaType) return (await openFile(bytes)).frame(frame);
  const { width, height, channels, bitsStored, offset } = about;
  const whole = new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return { width, height, channels, bitsStored, offset, data: samplesFrom(whole, bitsStored) };
}

/** A paper that came in, as it came. */
export async function arrivingPaper(
  caller: Caller,
  arrivalId: string
): Promise<{ bytes: ReadableStream<Uint8Array>; tag: string; title: string }> {
  await demand(caller, 'view charts', arrivalId);
  const row = await inClinic(caller.clinicId, (tx) => found(tx, arrivalId));
  if (isPicture(readAbout(row.about))) throw notFound('This paper');
  const tag = row.original_sha256.toString('hex');
  return { bytes: blobStream(caller.clinicId, row.original_sha256), tag, title: row.file_name };
}

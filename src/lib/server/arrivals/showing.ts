import { z } from 'zod';
import { upright } from '../../core/raster/orientation';
import { type Raster, samplesFrom } from '../../core/raster/raster';
import { wholeBlob } from '../blobs/keep';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { openFile } from '../pictures/decode/openFile';
import { samplesMediaType } from '../pictures/origin';
import { smallWebp } from '../pictures/small';
import { notFound } from '../problem';
import { arrivalOutside } from '../work/processes';
import { type About, readAbout } from './about';
import { arrivalRow, putShown, shownOf } from './queries';

/** Large enough to see whose it is. */
const shownPx = 1400;

/** Whether somebody may see an arrival, and how it looks if that was made before. @throws Problem */
export async function mayLook(caller: Caller, arrivalId: string): Promise<{ shown: Uint8Array | null }> {
  await demand(caller, 'view charts', arrivalId);
  const kept = z.uuid().safeParse(arrivalId).success
    ? await inClinic(caller.clinicId, (tx) => shownOf(tx, arrivalId))
    : undefined;
  if (!kept) throw notFound('This arrival');
  return kept;
}

/** An arrival as it looks. */
export async function arrivalShown(caller: Caller, arrivalId: string): Promise<Uint8Array> {
  const { shown } = await mayLook(caller, arrivalId);
  return shown ?? arrivalOutside({ clinicId: caller.clinicId, arrivalId });
}

/** Makes it, and keeps it. Called outside the web process. */
export async function makeShown({
  clinicId,
  arrivalId
}: {
  clinicId: string;
  arrivalId: string;
}): Promise<Uint8Array> {
  const row = await inClinic(clinicId, (tx) => arrivalRow(tx, arrivalId));
  if (!row) throw notFound('This arrival');
  const about = readAbout(row.about);
  const raster = await rasterOf(about, await wholeBlob(clinicId, row.original_sha256));
  const { firstLook: look, pixelAspect } = about;
  const webp = await smallWebp({ raster, look, orientation: upright, pixelAspect, longestPx: shownPx });
  await inClinic(clinicId, (tx) => putShown(tx, arrivalId, webp));
  return webp;
}

async function rasterOf(about: About, bytes: Uint8Array): Promise<Raster> {
  if (about.mediaType !== samplesMediaType) return (await openFile(bytes)).frame(0);
  const { width, height, channels, bitsStored, offset } = about;
  const whole = new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return { width, height, channels, bitsStored, offset, data: samplesFrom(whole, bitsStored) };
}

import { createHash } from 'node:crypto';
import { layersOf } from '../../core/picture/pictureLayers';
import { lookOf, orientationOf } from '../../core/picture/pictureView';
import type { Look } from '../../core/raster/look/look';
import { lookSchema } from '../../core/raster/look/lookSchema';
import { type Orientation, upright } from '../../core/raster/orientation';
import { levelAtLeast } from '../../core/raster/pyramid';
import { inClinic } from '../database/connection';
import { smallInProcess } from '../work/processes';
import { previewRow, putPreview } from './levelQueries';
import { rasterOf } from './levels';
import { stepsOf } from './queries';
import { smallPx, smallWebp } from './small';
import { pictureRow, viewOf } from './views';

/** The same look and orientation have the same key, whichever step they came from. */
export function previewKey(look: Look, { quarterTurns, mirrored }: Orientation): string {
  const digest = createHash('sha256').update(JSON.stringify(look)).digest('hex').slice(0, 16);
  return `${digest}-${quarterTurns}${mirrored ? 'm' : ''}`;
}

/** A small picture as it stood at one of its steps, turned as asked. Kept once it was made. */
export async function previewAt(
  clinicId: string,
  pictureId: string,
  seq: number,
  orientation: Orientation
): Promise<Uint8Array> {
  const { row, look, kept, key } = await inClinic(clinicId, async (tx) => {
    const found = await pictureRow(tx, pictureId);
    const log = (await stepsOf(tx, [pictureId])).get(pictureId) ?? [];
    const wanted = layersOf(log.filter((step) => step.seq <= seq)).look ?? lookSchema.parse(found.first_look);
    const own = previewKey(wanted, orientation);
    return { row: found, look: wanted, key: own, kept: await previewRow(tx, pictureId, own) };
  });
  if (kept) return kept.webp;
  const raster = await rasterOf(clinicId, row, 0, levelAtLeast(row, smallPx));
  const webp = await smallInProcess({ raster, look, orientation });
  await inClinic(clinicId, (tx) => putPreview(tx, pictureId, key, webp));
  return webp;
}

/** Makes the small pictures that are wanted first: as it lies in its slot, and upright. Called outside the web process. */
export async function makePreviews(clinicId: string, pictureId: string): Promise<void> {
  const { row, view } = await inClinic(clinicId, async (tx) => ({
    row: await pictureRow(tx, pictureId),
    view: await viewOf(tx, pictureId, '')
  }));
  const wanted = [
    { look: lookOf(view), orientation: orientationOf(view) },
    { look: view.firstLook, orientation: view.firstOrientation },
    { look: view.firstLook, orientation: upright }
  ];
  const raster = await rasterOf(clinicId, row, 0, levelAtLeast(row, smallPx));
  for (const each of new Map(
    wanted.map((wish) => [previewKey(wish.look, wish.orientation), wish])
  ).values()) {
    const key = previewKey(each.look, each.orientation);
    const kept = await inClinic(clinicId, (tx) => previewRow(tx, pictureId, key));
    if (kept) continue;
    const webp = await smallWebp({ raster, ...each });
    await inClinic(clinicId, (tx) => putPreview(tx, pictureId, key, webp));
  }
}

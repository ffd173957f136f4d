import { readableLayers } from '../../core/picture/pictureLayers';
import { cropSeen } from '../../core/picture/layers/crop/crop';
import { lookOf, openingLook, orientationOf, partOf } from '../../core/picture/pictureView';
import { type Orientation, upright } from '../../core/raster/orientation';
import { inClinic } from '../database/connection';
import { Problem } from '../problem';
import { previewOutside } from '../work/processes';
import { previewRow } from './levelQueries';
import { makePreview } from './previewMaking';
import { previewKey } from './previewWish';
import { readOrigin } from './origin';
import { shapeOf, stepsOf } from './queries';
import { openingLookOf, pictureRow, viewOf } from './views';

/** A small picture as it stood at one of its steps, turned as asked. Kept once it was made. */
export async function previewAt(
  clinicId: string,
  pictureId: string,
  seq: number,
  orientation: Orientation
): Promise<Uint8Array> {
  const { look, part, kept } = await inClinic(clinicId, async (tx) => {
    const found = await pictureRow(tx, pictureId, 'away');
    const log = (await stepsOf(tx, [pictureId])).get(pictureId) ?? [];
    const { layers } = readableLayers(log.filter((step) => step.seq <= seq));
    const wanted = layers.look ?? openingLookOf(found);
    const { pixelAspect } = readOrigin(found.facts);
    const shown =
      (layers.crop && cropSeen(layers.crop, { ...shapeOf(found), pixelAspect }, orientation)) ?? undefined;
    const key = previewKey({ look: wanted, orientation, part: shown });
    return { look: wanted, part: shown, kept: await previewRow(tx, pictureId, key) };
  });
  return kept?.webp ?? previewOutside({ clinicId, pictureId, look, orientation, part });
}

/** How long an asker is kept waiting. A browser has few connections, and what was changed must still find one. */
const usualPatienceMs = 800;
const beingMade = new Map<string, Promise<Uint8Array>>();

/** The same within a moment, or a Problem that says it is still being made: it goes on meanwhile, once for all askers. */
export async function previewSoon(
  wish: Parameters<typeof previewAt>,
  patienceMs = usualPatienceMs
): Promise<Uint8Array> {
  const key = JSON.stringify(wish);
  let making = beingMade.get(key);
  if (!making) {
    making = previewAt(...wish).finally(() => beingMade.delete(key));
    beingMade.set(key, making);
  }
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<null>((resolve) => (timer = setTimeout(resolve, patienceMs, null)));
  const webp = await Promise.race([making, late]).finally(() => clearTimeout(timer));
  if (webp) return webp;
  making.catch(() => {});
  throw new Problem(
    'being-made',
    'This small picture is still being made.',
    'It comes by itself in a moment.',
    503
  );
}

/** Makes the small pictures that are wanted first: as it lies in its slot, and upright. Called outside the web process. */
export async function makePreviews(clinicId: string, pictureId: string): Promise<void> {
  const view = await inClinic(clinicId, (tx) => viewOf(tx, pictureId, '', 'away'));
  const wanted = [
    { look: lookOf(view), orientation: orientationOf(view), part: partOf(view) },
    { look: openingLook(view), orientation: view.firstOrientation },
    { look: openingLook(view), orientation: upright }
  ];
  for (const each of new Map(wanted.map((wish) => [previewKey(wish), wish])).values()) {
    const kept = await inClinic(clinicId, (tx) => previewRow(tx, pictureId, previewKey(each)));
    if (!kept) await makePreview({ clinicId, pictureId, ...each });
  }
}

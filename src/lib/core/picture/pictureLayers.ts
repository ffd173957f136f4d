import type { Scale } from '../calibration/scale';
import type { Look } from '../raster/look/look';
import type { Orientation } from '../raster/orientation';
import { type LayerStep, standingLayers } from './layerLog';
import { type LayerName, layerKindOf, readLayer } from './layers/all';
import type { AboutPicture } from './layers/about/about';
import type { Crop } from './layers/crop/crop';
import type { Finding } from './layers/finding/finding';
import type { Graded } from './layers/grade/grade';
import type { TakenAt } from './layers/taken/taken';
import type { Veils } from './layers/veils/veils';
import { Unreadable } from '../versioned';
import { type ScaleGiven, scaleGiven } from './layers/scale/scale';

/** One of the things on a picture that there can be several of: a reading, a drawing. */
export interface PictureItem {
  id: string;
  kind: LayerName;
  body: unknown;
  /** The user who made it as it is now; empty while that is on its way to the records. */
  by: string;
}

/** What stands on a picture now; null where nobody has made anything. */
export interface PictureLayers {
  look: Look | null;
  orientation: Orientation | null;
  /** What of it is shown; all of it where nobody cropped it. */
  crop: Crop | null;
  scale: ScaleGiven | null;
  taken: TakenAt | null;
  about: AboutPicture | null;
  grade: Graded | null;
  /** What is masked of it when it leaves without its identity. */
  veils: Veils | null;
  items: PictureItem[];
}

export const noLayers: PictureLayers = {
  look: null,
  orientation: null,
  crop: null,
  scale: null,
  taken: null,
  about: null,
  grade: null,
  veils: null,
  items: []
};

/** What is seen on a picture, in words, by place. */
export const findingsOf = ({ items }: PictureLayers): { id: string; finding: Finding }[] =>
  items.flatMap(({ id, kind, body }) => (kind === 'finding' ? [{ id, finding: body as Finding }] : []));

/** One layer set to a state, or (null) taken off. */
export function withLayer(
  layers: PictureLayers,
  { kind, item, body, by = '' }: { kind: LayerName; item: string | null; body: unknown; by?: string }
): PictureLayers {
  if (!layerKindOf(kind).many) return { ...layers, [kind]: body };
  const isIt = (each: PictureItem) => each.id === item && each.kind === kind;
  const at = layers.items.findIndex(isIt);
  if (body === null) return { ...layers, items: layers.items.filter((each) => !isIt(each)) };
  const next = { id: item!, kind, body, by };
  return {
    ...layers,
    items: at < 0 ? [...layers.items, next] : layers.items.map((each, i) => (i === at ? next : each))
  };
}

/** @throws Unreadable when the log holds what this program can't read */
export function layersOf(steps: readonly LayerStep[]): PictureLayers {
  const { layers, unread } = readableLayers(steps);
  if (unread.length > 0) throw unread[0];
  return layers;
}

/** The same for showing: what can't be read is left out and named, and all the rest is there. */
export function readableLayers(steps: readonly LayerStep[]): { layers: PictureLayers; unread: Unreadable[] } {
  let layers = noLayers;
  const unread: Unreadable[] = [];
  for (const step of standingLayers(steps)) {
    try {
      const body = readLayer(step.kind, step.version, step.body);
      layers = withLayer(layers, { kind: step.kind as LayerName, item: step.item, body, by: step.by });
    } catch (error) {
      if (!(error instanceof Unreadable)) throw error;
      unread.push(error);
    }
  }
  return { layers, unread };
}

/** The scale somebody gave the picture, else its file's own. */
export const scaleInUse = (layers: PictureLayers, fileScale: Scale | null): Scale | null =>
  layers.scale ? scaleGiven(layers.scale) : fileScale;

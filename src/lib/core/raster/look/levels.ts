import type { Size } from '../orientation';
import { type Window, patchOfRaster, wholeOf } from '../patch';
import { halved } from '../pyramid';
import type { Raster } from '../raster';
import { type KeptSteps, type PreparedLook, greys, prepared } from './apply';
import { type Look, type LookStep, activeSteps } from './look';
import { greyTable, isPointwise } from './table';

/** The least wide blur that does anything, in samples. */
const leastSigma = 0.25;

/**
 * A look for a level of a picture's pyramid, of which one sample spans `factor` full-size pixels: what is said in pixels
 * is said in its samples. A step that would do nothing there is left out.
 */
export function atLevel(look: Look, factor: number): Look {
  const steps = activeSteps(look).flatMap((step): LookStep[] => {
    switch (step.kind) {
      case 'smooth':
      case 'unsharp': {
        const sigmaPx = step.sigmaPx / factor;
        return sigmaPx < leastSigma ? [] : [{ ...step, sigmaPx }];
      }
      case 'median': {
        const radiusPx = Math.round(step.radiusPx / factor);
        return radiusPx < 1 ? [] : [{ ...step, radiusPx: radiusPx as 1 | 2 }];
      }
      case 'keep edges': {
        const radiusPx = Math.round(step.radiusPx / factor);
        return radiusPx < 1 ? [] : [{ ...step, radiusPx }];
      }
      default:
        return [step];
    }
  });
  return { steps };
}

/** What equalising needs of the whole picture is told from about so many samples. */
const equaliserSide = 400;

/** A look that is ready for one level of one picture. */
export interface LevelLook {
  raster: Raster;
  prepared: PreparedLook;
}

/** Gets a look ready for a level; equalising is told from a coarser one, where that is as good. */
export function preparedForLevel(look: Look, raster: Raster, factor: number): LevelLook {
  const fine = atLevel(look, factor);
  const needs = fine.steps.some(({ kind }) => kind === 'equalise');
  if (!needs) return { raster, prepared: { steps: fine.steps, equalisers: new Map() } };
  let [coarse, at] = [raster, factor];
  while (Math.max(coarse.width, coarse.height) > equaliserSide) [coarse, at] = [halved(coarse), at * 2];
  const told = prepared(atLevel(look, at), (window) => patchOfRaster(coarse, window), sizeOf(coarse));
  // Steps that fell away on the coarser level shift the places in its list.
  const equalisers = [...told.equalisers.values()];
  const places = fine.steps.flatMap(({ kind }, i) => (kind === 'equalise' ? [i] : []));
  return {
    raster,
    prepared: { steps: fine.steps, equalisers: new Map(places.map((place, i) => [place, equalisers[i]])) }
  };
}

const sizeOf = ({ width, height }: Raster): Size => ({ width, height });

/**
 * A window of a level through its look, as a raster of 8-bit greys; each channel of a colour picture by itself.
 * Cost: that of the steps on the window and their margins, less what is kept.
 * @param kept for each channel
 */
export function throughLook(
  { raster, prepared: look }: LevelLook,
  window: Window = wholeOf(raster),
  kept?: readonly KeptSteps[]
): Raster {
  const { channels } = raster;
  const shape = { width: window.width, height: window.height, channels, bitsStored: 8, offset: 0 };
  if (isPointwise(look)) return { ...shape, data: byTable(raster, look, window) };
  const planes = Array.from({ length: channels }, (_, channel) =>
    greys(look, (asked) => patchOfRaster(raster, asked, channel), window, sizeOf(raster), kept?.[channel])
  );
  if (channels === 1) return { ...shape, data: planes[0] };
  const data = new Uint8Array(window.width * window.height * channels);
  planes.forEach((plane, channel) => {
    for (let i = 0; i < plane.length; i++) data[i * channels + channel] = plane[i];
  });
  return { ...shape, data };
}

/** A window through a look that looks at one sample alone: each sample's grey is looked up, as on a screen. */
function byTable(
  { data, width, channels, bitsStored, offset }: Raster,
  look: Look,
  window: Window
): Uint8Array {
  const table = greyTable(look, bitsStored, offset);
  const out = new Uint8Array(window.width * window.height * channels);
  for (let y = 0, to = 0; y < window.height; y++) {
    const from = ((window.top + y) * width + window.left) * channels;
    const end = from + window.width * channels;
    for (let i = from; i < end; i++) out[to++] = table[data[i]];
  }
  return out;
}

/** Whether a look shows a level without looking at neighbours: then a table is enough. */
export const isTable = (look: Look, factor = 1): boolean => isPointwise(atLevel(look, factor));

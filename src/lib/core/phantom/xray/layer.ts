import type { Vec3 } from '../space';
import type { Part } from '../solid/part';

/** How a material varies inside its body. */
export interface Weave {
  /** What its attenuation is multiplied with at a place in the room, around 1. */
  factor: (point: Vec3) => number;
  /** The size of its smallest features, in mm: it is not asked closer than an eighth of that. */
  grainMm: number;
}

/**
 * One material: what lies in any of `parts` and in none of `minus`, at `perMm` attenuation per millimetre beside what
 * is there already. A canal in a tooth is a layer of negative attenuation; marrow in a shell likewise.
 */
export interface Layer {
  parts: Part[];
  minus?: Part[];
  perMm: number;
  weave?: Weave;
  /** Hard-edged and dense (metal): its rim is sampled nine times a pixel. */
  sharp?: boolean;
}

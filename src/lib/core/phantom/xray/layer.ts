import type { Vec3 } from '../space';
import type { Part } from '../solid/part';

/**
 * How a material varies inside its body: a factor on its attenuation at a place in the room, around 1. It is asked for
 * a few places along each ray.
 */
export type Weave = (point: Vec3) => number;

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

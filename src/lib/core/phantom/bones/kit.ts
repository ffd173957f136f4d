import { type Part, type Plane, cutBy, inset, limb, moved, sweep } from '../solid/part';
import { type Frame, type Vec3, mix } from '../space';
import { perMm } from '../xray/attenuation';
import type { Detector } from '../xray/detector';
import type { Faults } from '../xray/faults';
import type { Layer } from '../xray/layer';
import { type Body, type Radiograph, radiograph } from '../xray/radiograph';
import type { XrayView } from '../xray/view';
import { clouds, trabeculae } from '../xray/weave';

/** Bodies before a detector, with the numbers that a measurement of the picture should find. */
export interface Scene {
  bodies: Body[];
  view: XrayView;
  detector: Detector;
  /** By name, with the unit at its end: `cobbDeg`, `ulnarVarianceMm`. */
  truth: Record<string, number>;
}

export function sceneRadiograph(scene: Scene, seed: number, faults: Faults = {}): Radiograph {
  return radiograph(scene.bodies, scene.view, scene.detector, seed, faults);
}

export interface BoneWish {
  parts: Part[];
  cortexMm: number;
  seed: number;
  /** Distance between trabeculae. */
  spacingMm?: number;
  /** Along which loads run: the z of this frame. */
  frame?: Frame;
  /** Where the shaft is hollow: filled with fatty marrow. */
  marrow?: Part[];
  /** Share of ordinary bone density: below 1 is thin bone. */
  density?: number;
  /** Where the bone is broken: what lies beyond these planes is gone, and there is no cortex along them. */
  broken?: Plane[];
  /** Where the piece went. */
  moved?: Frame;
}

/** A bone: a shell of cortex around spongy bone, hollow where there is marrow. */
export function bone({
  parts,
  cortexMm,
  seed,
  spacingMm = 1.1,
  frame,
  marrow,
  density = 1,
  broken = [],
  moved: by
}: BoneWish): Layer[] {
  const piece = (of: Part[]) => {
    const left = of.map((part) => cutBy(part, ...broken));
    return by ? movedAll(left, by) : left;
  };
  const inner = piece(parts.flatMap((part) => inset(part, cortexMm) ?? []));
  const cortex = perMm.cortical * density;
  const spongy = perMm.spongy * (0.55 + 0.45 * density);
  const layers: Layer[] = [{ parts: piece(parts), perMm: cortex }];
  if (inner.length > 0)
    layers.push({
      parts: inner,
      perMm: spongy - cortex,
      weave: trabeculae({ seed, spacingMm, depth: -0.42, stretch: 2.2, frame })
    });
  if (marrow && marrow.length > 0) layers.push({ parts: piece(marrow), perMm: (perMm.soft - spongy) * 0.8 });
  return layers;
}

/** Flesh around bones: one cloudy body. What is bone has more attenuation anyway, so it is not taken out. */
export const flesh = (parts: Part[], seed: number, share = 1): Layer => ({
  parts,
  perMm: perMm.soft * share,
  weave: clouds(seed, 26, 0.13)
});

/** Air: what lies there has hardly any attenuation left of the flesh it is in. */
export const air = (parts: Part[], share = 0.8): Layer => ({ parts, perMm: -perMm.soft * share });

/** A tube through points with a radius at each, cut into short limbs so that it bends smoothly. */
export function tube(points: readonly Vec3[], radii: readonly number[], frame?: Frame, per = 3): Part[] {
  const stations: { at: Vec3; r: number }[] = [];
  const at = (i: number) => points[Math.min(points.length - 1, Math.max(0, i))];
  for (let i = 0; i < points.length - 1; i++) {
    for (let k = 0; k < per; k++) {
      const t = k / per;
      stations.push({
        at: spline(at(i - 1), at(i), at(i + 1), at(i + 2), t),
        r: radii[i] + (radii[i + 1] - radii[i]) * t
      });
    }
  }
  stations.push({ at: points[points.length - 1], r: radii[radii.length - 1] });
  return sweep(stations, frame);
}

/** Between b and c, smooth with its neighbours (Catmull and Rom, 1974). */
export function spline(a: Vec3, b: Vec3, c: Vec3, d: Vec3, t: number): Vec3 {
  const one = (i: number) =>
    0.5 *
    (2 * b[i] +
      (c[i] - a[i]) * t +
      (2 * a[i] - 5 * b[i] + 4 * c[i] - d[i]) * t * t +
      (3 * b[i] - a[i] - 3 * c[i] + d[i]) * t * t * t);
  return [one(0), one(1), one(2)];
}

/** The other side of a plane. */
export const beyond = ({ normal, offset }: Plane): Plane => ({
  normal: [-normal[0], -normal[1], -normal[2]],
  offset: -offset
});

export const movedAll = (parts: readonly Part[], frame: Frame): Part[] =>
  parts.map((part) => moved(part, frame));

/** A straight shaft with a waist: thick at both ends. */
export function shaft(a: Vec3, b: Vec3, ra: number, waist: number, rb: number, frame?: Frame): Part[] {
  return [
    limb(a, ra, mix(a, b, 0.18), waist * 1.12, frame),
    limb(mix(a, b, 0.18), waist * 1.12, mix(a, b, 0.5), waist, frame),
    limb(mix(a, b, 0.5), waist, mix(a, b, 0.82), waist * 1.12, frame),
    limb(mix(a, b, 0.82), waist * 1.12, b, rb, frame)
  ];
}

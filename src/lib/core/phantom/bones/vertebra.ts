import { type Part, ellipsoid, limb, rod } from '../solid/part';
import { type Frame, type Vec3, movePoint, stretched } from '../space';
import { perMm } from '../xray/attenuation';
import type { Layer } from '../xray/layer';
import { bone, movedAll } from './kit';

/** Millimetres: of the body, and how far the arch reaches back. */
export interface VertebraSize {
  width: number;
  depth: number;
  height: number;
  arch: number;
  /** From the middle to the tip of each transverse process; 0 for none. */
  wings: number;
}

/**
 * A vertebra in axes of its own: x to the left, y to the back, z to the head, the body's middle at the origin. Bright
 * endplates, pedicles that show as rings from the front, arch and processes.
 */
export function vertebra(frame: Frame, size: VertebraSize, seed: number, density = 1): Layer[] {
  const { width, depth, height, arch, wings } = size;
  const half = height / 2;
  const oval = stretched(1, depth / width, 1);
  const place = (parts: Part[]) => movedAll(parts, frame);
  const waist = width / 2;
  const body = [
    rod([0, 0, -half], waist, [0, 0, -half * 0.15], waist * 0.9, oval),
    rod([0, 0, -half * 0.15], waist * 0.9, [0, 0, half * 0.15], waist * 0.9, oval),
    rod([0, 0, half * 0.15], waist * 0.9, [0, 0, half], waist, oval)
  ];
  const back = depth / 2;
  const pedicleX = width * 0.33;
  const archParts = [pedicleX, -pedicleX].flatMap((x): Part[] => [
    limb([x, back - 2, height * 0.12], height * 0.2, [x, back + arch * 0.22, height * 0.1], height * 0.2),
    limb(
      [x, back + arch * 0.22, 0],
      height * 0.18,
      [x * 0.2, back + arch * 0.5, -height * 0.12],
      height * 0.18
    ),
    limb(
      [x * 1.1, back + arch * 0.25, height * 0.1],
      height * 0.16,
      [x * 1.15, back + arch * 0.3, half * 1.1],
      height * 0.16
    )
  ]);
  archParts.push(limb([0, back + arch * 0.5, -height * 0.12], 3.2, [0, back + arch, -height * 0.5], 3.6));
  if (wings > 0)
    for (const side of [1, -1])
      archParts.push(
        limb([side * pedicleX, back + 3, 2], height * 0.16, [side * wings, back + 6, 1], height * 0.11)
      );
  const plates = [half - 0.5, -half + 0.5].map((z) =>
    rod([0, 0, z - 0.6], waist * 0.97, [0, 0, z + 0.6], waist * 0.97, oval)
  );
  const rings = [pedicleX, -pedicleX].map((x) =>
    ellipsoid([x, back + 2, height * 0.12], [height * 0.15, 4.5, height * 0.2])
  );
  return [
    ...bone({ parts: place(body), cortexMm: 0.9, seed, spacingMm: 1.4, frame, density }),
    ...bone({ parts: place(archParts), cortexMm: 1.1, seed: seed + 1, spacingMm: 1.3, density }),
    { parts: place(plates), perMm: perMm.cortical * 0.28 * density },
    { parts: place(rings), perMm: perMm.cortical * 0.3 * density }
  ];
}

/** The corners of a vertebra's body as a film shows them: from the front (left, right) and from the side. */
export function corners(
  frame: Frame,
  { width, depth, height }: VertebraSize,
  name: string
): Record<string, Vec3> {
  const at = (x: number, y: number, z: number) =>
    movePoint(frame, [(x * width) / 2, (y * depth) / 2, (z * height) / 2]);
  return {
    [`${name} upper left`]: at(1, 0, 1),
    [`${name} upper right`]: at(-1, 0, 1),
    [`${name} lower left`]: at(1, 0, -1),
    [`${name} lower right`]: at(-1, 0, -1),
    [`${name} upper front`]: at(0, -1, 1),
    [`${name} upper back`]: at(0, 1, 1),
    [`${name} lower front`]: at(0, -1, -1),
    [`${name} lower back`]: at(0, 1, -1)
  };
}

/**
 * Frames of a column of vertebrae, one on the other from the lowest up: each stands square to its tilt, a disc apart.
 * @param tilts degrees of each about `axis`, lowest first
 */
export function stacked(base: Vec3, sizes: VertebraSize[], discs: number[], tilts: Frame[]): Frame[] {
  const frames: Frame[] = [];
  let at = base;
  for (const [i, size] of sizes.entries()) {
    const up: Vec3 = tilts[i].z;
    const middle: Vec3 = [
      at[0] + (up[0] * size.height) / 2,
      at[1] + (up[1] * size.height) / 2,
      at[2] + (up[2] * size.height) / 2
    ];
    frames.push({ ...tilts[i], origin: middle });
    const next = tilts[Math.min(i + 1, tilts.length - 1)].z;
    at = [0, 1, 2].map(
      (k) => middle[k] + (up[k] * size.height) / 2 + ((up[k] + next[k]) / 2) * discs[i]
    ) as unknown as Vec3;
  }
  return frames;
}

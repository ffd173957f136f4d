import type { Tooth } from '../../anatomy/teeth';
import { toothKind } from '../../anatomy/teeth';
import type { SeededRandom } from '../../random';
import { type Part, type Plane, cutBy, ellipsoid, limb, rod, sweep } from '../solid/part';
import { type Frame, type Vec3, mix, stretched } from '../space';
import { type ToothSize, isUpper, placeOf, sizeOf } from './sizes';

/**
 * A tooth in axes of its own: x along the arch towards the midline, y towards the cheek, z towards the biting edge;
 * z = 0 is the neck, where enamel ends. Millimetres.
 */
export interface ToothShape {
  tooth: Tooth;
  size: ToothSize;
  /** Enamel and what is under it. */
  crown: Part[];
  core: Part[];
  roots: Part[];
  /** The chamber and the canals. */
  chamber: Part[];
  canals: Part[];
  /** Centre line of each canal, from the chamber to the end of the root. */
  lines: Vec3[][];
  landmarks: Record<string, Vec3>;
}

const neckShare = { incisor: 0.68, canine: 0.74, premolar: 0.72, molar: 0.84 } as const;

export function toothShape(tooth: Tooth, random: SeededRandom): ToothShape {
  const typical = sizeOf(tooth);
  const grown = () => 1 + 0.035 * random.normal();
  const all = grown();
  const size: ToothSize = {
    crown: typical.crown * all,
    root: typical.root * all * grown(),
    width: typical.width,
    depth: typical.depth
  };
  const kind = toothKind(tooth);
  const lines = rootLines(tooth, size, random);
  const neckWidth = size.width * neckShare[kind];
  const roots = lines.flatMap((line) => rootParts(tooth, size, line, lines.length));
  const apices = Object.fromEntries(
    lines.map((line, i) => [lines.length === 1 ? 'apex' : `apex ${i + 1}`, line.at(-1)!])
  );
  const crown =
    kind === 'molar' || kind === 'premolar' ? cuspedCrown(tooth, size) : bladeCrown(size, kind === 'canine');
  return {
    tooth,
    size,
    ...crown,
    roots,
    ...pulp(tooth, size, lines),
    lines,
    landmarks: {
      ...apices,
      'neck mesial': [neckWidth / 2, 0, 0],
      'neck distal': [-neckWidth / 2, 0, 0],
      tip: [0, kind === 'molar' ? size.depth * 0.24 : 0, size.crown]
    }
  };
}

/** The way of each root, from the neck to its end: a little curved towards the back. */
function rootLines(tooth: Tooth, { root, width, depth }: ToothSize, random: SeededRandom): Vec3[][] {
  const curved = (from: Vec3, end: Vec3, bend: number): Vec3[] =>
    [0, 0.3, 0.55, 0.78, 1].map((s): Vec3 => {
      const [x, y, z] = mix(from, end, s);
      return [x - bend * s * s * s, y, z];
    });
  const bend = () => 0.4 + 0.7 * random.uniform();
  const place = placeOf(tooth);
  const trunk = -2.6;
  if (place >= 6 && isUpper(tooth)) {
    return [
      curved([width * 0.22, depth * 0.22, 0], [width * 0.3, depth * 0.34, -root], bend()),
      curved([-width * 0.22, depth * 0.2, 0], [-width * 0.26, depth * 0.32, -root * 0.96], 0.2 * bend()),
      curved([0, -depth * 0.2, 0], [0, -depth * 0.42, -root * 1.04], 0.3 * bend())
    ];
  }
  if (place >= 6) {
    const spread = place === 8 ? 0.17 : 0.27;
    return [
      curved([width * 0.22, 0, trunk * 0.2], [width * spread, 0, -root], 1.3 * bend()),
      curved([-width * 0.22, 0, trunk * 0.2], [-width * (spread + 0.02), 0, -root * 0.95], 0.5 * bend())
    ];
  }
  if (place === 4 && isUpper(tooth)) {
    return [
      curved([0, depth * 0.14, 0], [0.2, depth * 0.24, -root], bend()),
      curved([0, -depth * 0.14, 0], [-0.1, -depth * 0.24, -root * 0.96], 0.5 * bend())
    ];
  }
  return [curved([0, 0, 0], [0, 0, -root], bend())];
}

function rootParts(tooth: Tooth, { width, depth }: ToothSize, line: Vec3[], count: number): Part[] {
  const kind = toothKind(tooth);
  const single = count === 1;
  const across = single ? (width * neckShare[kind]) / 2 : kind === 'molar' ? width * 0.235 : width * 0.33;
  const flat = single
    ? Math.min(1.6, (depth * 0.82) / (width * neckShare[kind]))
    : kind === 'molar' && !isUpper(tooth)
      ? 1.75
      : kind === 'premolar'
        ? 0.85
        : 1.05;
  const frame = stretched(1, flat, 1);
  const radius = [1, 0.9, 0.74, 0.52, 0.2];
  const flattened = (p: Vec3): Vec3 => [p[0], p[1] / flat, p[2]];
  const stations = line.map((at, i) => ({ at: flattened(at), r: Math.max(0.42, across * radius[i]) }));
  // The tip is drawn back by its own radius, so that the root ends where its landmark is.
  const last = stations[stations.length - 1];
  const before = stations[stations.length - 2];
  const reach = Math.hypot(last.at[0] - before.at[0], last.at[1] - before.at[1], last.at[2] - before.at[2]);
  last.at = mix(last.at, before.at, last.r / reach);
  const parts = sweep(stations, frame);
  if (kind !== 'molar') return parts;
  // The trunk that molar roots spring from.
  const trunk = limb(
    [line[0][0] * 0.5, (line[0][1] * 0.5) / flat, 0.6],
    across * 1.15,
    [line[1][0] * 0.8, (line[1][1] * 0.8) / flat, -2.4],
    across * 0.98,
    frame
  );
  return [...parts, trunk];
}

/** A crown's body: an ellipsoid hewn by planes that lean outwards from the neck to where neighbours touch. */
interface Hewn {
  neckX: number;
  neckY: number;
  touchX: number;
  touchY: number;
  /** Height of the touching points, and of the flat top. */
  touchZ: number;
  topZ: number;
}

function hewn({ neckX, neckY, touchX, touchY, touchZ, topZ }: Hewn, extra: Plane[] = []): Part {
  const leanX = touchX - neckX;
  const leanY = touchY - neckY;
  const body = ellipsoid(
    [0, 0, topZ * 0.42],
    [Math.max(neckX, touchX) * 1.13, Math.max(neckY, touchY) * 1.13, topZ * 0.74]
  );
  return cutBy(
    body,
    { normal: [touchZ, 0, -leanX], offset: neckX * touchZ },
    { normal: [-touchZ, 0, -leanX], offset: neckX * touchZ },
    { normal: [0, touchZ, -leanY], offset: neckY * touchZ },
    { normal: [0, -touchZ, -leanY], offset: neckY * touchZ },
    { normal: [0, 0, 1], offset: topZ },
    ...extra
  );
}

/** Incisors and canines: a blade, thick at the neck and thin at its edge. Enamel thins out towards the neck. */
function bladeCrown({ crown, width, depth }: ToothSize, pointed: boolean): { crown: Part[]; core: Part[] } {
  const neckX = width * (pointed ? 0.39 : 0.36);
  const neckY = depth * 0.44;
  const slopes = (tip: number): Plane[] =>
    pointed
      ? [
          { normal: [0.34, 0, 1], offset: tip },
          { normal: [-0.4, 0, 1], offset: tip },
          { normal: [0.85, 0, 1], offset: tip + width * 0.14 },
          { normal: [-0.95, 0, 1], offset: tip + width * 0.14 },
          { normal: [1.9, 0, 1], offset: tip + width * 0.6 },
          { normal: [-2, 0, 1], offset: tip + width * 0.6 }
        ]
      : [
          { normal: [-0.07, 0, 1], offset: tip },
          { normal: [0.8, 0, 1], offset: tip + width * 0.36 },
          { normal: [-0.9, 0, 1], offset: tip + width * 0.35 }
        ];
  const outer = hewn(
    { neckX, neckY, touchX: width * 0.5, touchY: 0.9, touchZ: crown * 0.8, topZ: crown * 1.12 },
    slopes(crown)
  );
  const inner = hewn(
    {
      neckX: neckX - 0.08,
      neckY: neckY - 0.08,
      touchX: width * 0.5 - 0.95,
      touchY: 0.35,
      touchZ: crown * 0.8,
      topZ: crown
    },
    slopes(crown - 1.5)
  );
  return { crown: [outer], core: [inner] };
}

/** Premolars and molars: a hewn body with a pillar for each cusp. */
function cuspedCrown(tooth: Tooth, { crown, width, depth }: ToothSize): { crown: Part[]; core: Part[] } {
  const molar = placeOf(tooth) >= 6;
  const neckX = width * (molar ? 0.42 : 0.36);
  const neckY = depth * 0.42;
  const touchZ = crown * 0.62;
  const enamel = 1.15;
  const parts = {
    crown: [
      hewn({ neckX, neckY, touchX: width * 0.5, touchY: depth * 0.48, touchZ, topZ: crown - 1.45 }, [
        { normal: [0.75, 0, 1], offset: crown * 0.98 + width * (molar ? 0.2 : 0.1) },
        { normal: [-0.75, 0, 1], offset: crown * 0.98 + width * (molar ? 0.2 : 0.1) },
        { normal: [2, 0, 1], offset: crown * 0.7 + width * 0.92 },
        { normal: [-2, 0, 1], offset: crown * 0.7 + width * 0.92 }
      ])
    ],
    core: [
      hewn({
        neckX: neckX - 0.08,
        neckY: neckY - 0.08,
        touchX: width * 0.5 - enamel,
        touchY: depth * 0.48 - enamel,
        touchZ,
        topZ: crown - 3.1
      })
    ]
  };
  const columns = molar ? [width * 0.235, -width * 0.235] : [0];
  for (const [i, x] of columns.entries()) {
    for (const y of [depth * 0.25, -depth * 0.25]) {
      const height = crown - (y > 0 ? 0 : molar ? 0.5 : 1) - i * 0.25;
      const foot: Vec3 = [x * 0.78, y * 0.8, crown * 0.42];
      const wide = molar ? width * 0.24 : width * 0.38;
      parts.crown.push(limb(foot, wide, [x, y, height - 1.35], 1.35));
      parts.core.push(limb(foot, wide - enamel, [x * 0.92, y * 0.92, height - 2.5], 0.6));
    }
  }
  return parts;
}

function pulp(
  tooth: Tooth,
  { crown, width, depth }: ToothSize,
  lines: Vec3[][]
): { chamber: Part[]; canals: Part[] } {
  const canals = lines.flatMap((line) => {
    const stations = line.map((at, i) => ({
      at,
      r: [0.55, 0.42, 0.34, 0.26, 0.13][i] * (lines.length > 1 ? 0.85 : 1)
    }));
    return sweep(stations, still);
  });
  const molar = placeOf(tooth) >= 6;
  const chamber: Part[] = molar
    ? [
        ellipsoid([0, 0, 0.6], [width * 0.25, depth * 0.2, 1.15]),
        limb([width * 0.15, depth * 0.1, 1], 0.5, [width * 0.2, depth * 0.16, crown * 0.46], 0.16),
        limb([-width * 0.15, depth * 0.1, 1], 0.5, [-width * 0.19, depth * 0.14, crown * 0.4], 0.14)
      ]
    : [
        limb([0, 0, -0.5], 0.62, [0, 0, crown * 0.34], 0.55, stretched(1, 1.25, 1)),
        limb([0, 0, crown * 0.2], 0.5, [width * 0.1, 0, crown * 0.52], 0.16, stretched(1, 1.2, 1))
      ];
  return { chamber, canals };
}

const still: Frame = stretched(1, 1, 1);

/** A straight, tapered instrument along a canal's line, from above the biting edge to a share of the way to the end. */
export function alongCanal(
  line: Vec3[],
  crown: number,
  stopShort: number,
  thick: number,
  thin: number
): Part[] {
  const points = shortened(line, stopShort);
  const top: Vec3 = [points[0][0] * 0.9, points[0][1] * 0.8, crown + 1.5];
  const all = [top, ...points];
  return all.slice(1).map((to, i) => {
    const r = (k: number) => thick + ((thin - thick) * k) / (all.length - 1);
    return rod(all[i], r(i), to, r(i + 1));
  });
}

/** A line with some millimetres taken off its end. */
export function shortened(line: Vec3[], mm: number): Vec3[] {
  const out = [...line];
  let left = mm;
  while (out.length > 1) {
    const [a, b] = [out[out.length - 2], out[out.length - 1]];
    const reach = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
    if (reach > left) {
      out[out.length - 1] = mix(b, a, left / reach);
      return out;
    }
    left -= reach;
    out.pop();
  }
  return out;
}

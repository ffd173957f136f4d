import { permanentTeeth } from '../../anatomy/teeth';
import { seededRandom } from '../../random';
import { type Part, box, ellipsoid, limb, sweep } from '../solid/part';
import { enclosing } from '../solid/rays';
import { type Vec3, add, cross, dot, sub, times, unit } from '../space';
import { bone } from '../bones/kit';
import { perMm } from '../xray/attenuation';
import { type Detector, exposed, flatPanel } from '../xray/detector';
import type { Faults } from '../xray/faults';
import type { Layer } from '../xray/layer';
import type { KnownPoint } from '../xray/radiograph';
import { addLayer } from '../xray/thickness';
import { type XrayView, magnificationAt, projected } from '../xray/view';
import type { Raster } from '../../raster/raster';
import { mouthBody } from './body';
import type { Mouth } from './dentition';

/**
 * A panoramic view: a narrow beam goes round the jaws and always passes square through the arch of the teeth, so the
 * picture is that arch unrolled. What is far off the arch is smeared by the turning and left out here but for a veil.
 */
export interface Panoramic {
  raster: Raster;
  /** Of things on the arch; the same along and across it. */
  magnification: number;
  pitchMm: number;
  known: Record<string, KnownPoint>;
}

const pitchMm = 0.15;
const magnification = 1.25;
const height = 860;
const stripPx = 4;
/** What lies further than this from the arch along the beam is out of the layer in focus. */
const layerMm = 17;
const upperMm = 62;

/** The arch that is kept in focus, from the right jaw joint round the front to the left one, evenly spaced. */
function trough(stepMm: number): { at: Vec3; outward: Vec3 }[] {
  const half: Vec3[] = [];
  for (let i = 0; i <= 60; i++) {
    const angle = ((i / 60) * 82 * Math.PI) / 180;
    half.push([29.3 * Math.sin(angle), -50 * Math.cos(angle) + 0.8, 0]);
  }
  half.push([34, 8, 0], [40, 22, 0], [46, 36, 0], [50, 52, 0], [52, 66, 0]);
  const line = [
    ...half
      .slice(1)
      .reverse()
      .map(([x, y, z]): Vec3 => [-x, y, z]),
    ...half
  ];
  const out: { at: Vec3; outward: Vec3 }[] = [];
  let gone = 0;
  let next = 0;
  for (let i = 1; i < line.length; i++) {
    const way = sub(line[i], line[i - 1]);
    const length = Math.hypot(...way);
    while (next <= gone + length) {
      const at = add(line[i - 1], times(way, (next - gone) / length));
      const along = unit(way);
      out.push({ at, outward: [along[1], -along[0], 0] });
      next += stepMm;
    }
    gone += length;
  }
  return smoothed(out);
}

/** The beam turns evenly: directions are averaged over a few millimetres. */
function smoothed(points: { at: Vec3; outward: Vec3 }[]): { at: Vec3; outward: Vec3 }[] {
  const reach = Math.ceil(points.length / 24);
  return points.map(({ at }, i) => {
    let sum: Vec3 = [0, 0, 0];
    for (let k = -reach; k <= reach; k++)
      sum = add(sum, points[Math.min(points.length - 1, Math.max(0, i + k))].outward);
    return { at, outward: unit(sum) };
  });
}

/** The strip of the picture about a place of the arch: source behind the head, detector before the face. */
function stripView(at: Vec3, outward: Vec3, columns: number): XrayView {
  const toSource = 260;
  const toDetector = toSource * (magnification - 1);
  const source = add(at, add(times(outward, -toSource), [0, 0, -26]));
  const across = unit(cross(outward, [0, 0, 1]));
  const face = times(across, -1);
  // Seen from the front, the patient's right is on the left, whichever way the beam goes.
  const middle = add(at, times(outward, toDetector));
  const corner = add(middle, add(times(face, (-columns / 2) * pitchMm), [0, 0, upperMm * magnification]));
  return { source, corner, across: face, down: [0, 0, -1], pitchMm, width: columns, height };
}

const detector: Detector = {
  ...flatPanel,
  bits: 12,
  black: 0.25,
  white: 2.9,
  evening: 0.4,
  eveningPx: 120,
  spreadPx: 1.1,
  quanta: 3600
};

export function panoramic(mouth: Mouth, seed: number, faults: Faults = {}): Panoramic {
  const body = mouthBody(mouth, permanentTeeth);
  const layers = [...body.layers.filter((layer) => !isVeil(layer)), ...jaw(mouth.seed)];
  const stepMm = (stripPx * pitchMm) / magnification;
  const places = trough(stepMm);
  const width = places.length * stripPx;
  const map = new Float32Array(width * height);
  const known: Record<string, KnownPoint> = {};
  const best: Record<string, number> = {};
  for (const [s, { at, outward }] of places.entries()) {
    const view = stripView(at, outward, stripPx);
    const strip = new Float32Array(stripPx * height);
    const near = (part: Part) => {
      const { center, radius } = enclosing(part);
      const off = sub(center, at);
      return (
        Math.abs(dot(off, outward)) < layerMm + radius * 0.4 && Math.abs(dot(off, view.across)) < radius + 12
      );
    };
    for (const layer of layers) {
      const parts = layer.parts.filter(near);
      if (parts.length > 0) addLayer(strip, view, { ...layer, parts, minus: layer.minus?.filter(near) });
    }
    for (let y = 0; y < height; y++)
      for (let x = 0; x < stripPx; x++)
        map[y * width + s * stripPx + x] = strip[y * stripPx + x] + veil(s * stripPx + x, y, width);
    for (const [name, point] of Object.entries(body.landmarks)) {
      const off = sub(point, at);
      const aside = Math.abs(dot(off, view.across));
      if (Math.abs(dot(off, outward)) > layerMm || aside >= (best[name] ?? stepMm)) continue;
      best[name] = aside;
      known[name] = place(view, point, s * stripPx, width);
    }
  }
  const raster = exposed(map, width, height, detector, seededRandom(seed), faults);
  return { raster, magnification, pitchMm, known };
}

const isVeil = (layer: Layer) =>
  layer.parts.length === 1 && enclosing(layer.parts[0]).radius > 40 && layer.perMm < perMm.soft;

function place(view: XrayView, point: Vec3, left: number, width: number): KnownPoint {
  const { x, y } = projected(view, point);
  const imagePoint = { x: left + x, y };
  return {
    patientPointMm: point,
    imagePoint,
    magnification: magnificationAt(view, point),
    inPicture: imagePoint.x >= 0 && imagePoint.x <= width && imagePoint.y >= 0 && imagePoint.y <= height
  };
}

/** Flesh everywhere, and the shadow of the neck's bones in the middle. */
function veil(x: number, y: number, width: number): number {
  const across = (x - width / 2) / width;
  const neck = 0.5 * Math.exp(-((across / 0.075) ** 2)) * (0.5 + 0.5 * (y / height));
  const mouthAir = 0.16 * Math.exp(-(((y - height * 0.47) / 60) ** 2)) * Math.exp(-((across / 0.3) ** 4));
  return 0.62 + neck - mouthAir - 0.25 * Math.abs(across);
}

/** What the teeth's own bone leaves out: the mandible's back, its branch and joint, the hard palate, the sinus walls. */
function jaw(seed: number): Layer[] {
  const parts = [1, -1].flatMap((side): Part[] => [
    ...sweep([
      { at: [side * 37.5, 11, -27], r: 9 },
      { at: [side * 39, 17, -27], r: 10 },
      { at: [side * 43, 29, -25], r: 10 },
      { at: [side * 46, 38, -18], r: 9.5 }
    ]),
    // The branch is a plate: limbs side by side, whose front edge slopes down to the last tooth.
    ...Array.from({ length: 16 }, (_, i) =>
      limb(
        [side * (34 + 0.85 * i), 3 + 2.4 * i, -26],
        6,
        [side * (34 + 0.95 * i), 5 + 2.65 * i, i < 5 ? -15 + 4.6 * i : 8 - 0.9 * Math.abs(i - 10)],
        5.2
      )
    ),
    limb([side * 47, 38, 0], 8, [side * 51, 55, 33], 4.4),
    ellipsoid([side * 51.5, 57, 38], [9, 5.5, 6]),
    limb([side * 40, 19, 0], 8, [side * 42, 24, 28], 2.8)
  ]);
  const body = bone({ parts, cortexMm: 1.9, seed: seed + 300, spacingMm: 1.1 });
  const palate: Part[] = [1, -1].flatMap((side) => [
    box([side * 12, -22, 27], [12, 22, 0.5]),
    ...sweep([
      { at: [side * 16, -36, 50], r: 0.8 },
      { at: [side * 19, -34, 29], r: 0.8 },
      { at: [side * 27, -16, 22], r: 0.8 },
      { at: [side * 31, 2, 25], r: 0.8 },
      { at: [side * 33, 8, 48], r: 0.8 }
    ])
  ]);
  return [...body, { parts: palate, perMm: perMm.cortical * 0.8 }];
}

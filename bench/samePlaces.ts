import type { Tooth } from '../src/lib/core/anatomy/teeth';
import { finished } from '../src/lib/core/longWork';
import { dogStifleScene } from '../src/lib/core/phantom/animals/dogSide';
import { legAlone } from '../src/lib/core/phantom/bones/legs';
import { wristScene } from '../src/lib/core/phantom/bones/wrist';
import { type Transfer, anyImaging, imaged } from '../src/lib/core/phantom/foreign/imaging';
import { type Vec3, add, cross, dot, sub, times, unit } from '../src/lib/core/phantom/space';
import { mouthBody } from '../src/lib/core/phantom/teeth/body';
import { mouth } from '../src/lib/core/phantom/teeth/dentition';
import { ordinaryMouth } from '../src/lib/core/phantom/teeth/ordinaryMouth';
import { beamTeeth, toothView } from '../src/lib/core/phantom/teeth/views';
import { type Body, attenuationOf } from '../src/lib/core/phantom/xray/radiograph';
import { type XrayView, projected, xrayView } from '../src/lib/core/phantom/xray/view';
import { type SeededRandom, seededRandom } from '../src/lib/core/random';
import { brightness } from '../src/lib/core/raster/brightness';
import { type PointPair, laidOver, onto } from '../src/lib/core/raster/geometry/similarity';
import type { Patch } from '../src/lib/core/raster/patch';
import { samePlaces } from '../src/lib/core/raster/registration/samePlaces';
import type { Truth } from './measuring';
import { median, share } from './report';

interface Thing {
  bodies: Body[];
  view: XrayView;
  landmarks: Record<string, Vec3>;
}
/** Pairs of pictures of each thing, with seeds that nothing was tuned on. */
const takes = 12;
const firstSeed = 5001;
const transfers: Transfer[] = ['linear', 'logarithmic', 'curved', 'root'];
const toothGroups: Tooth[][] = [
  [36, 37],
  [46, 45],
  [11, 21],
  [16, 15],
  [33, 34],
  [26, 27]
];

/** With half as many pixels a side: the search does not look closer. */
function coarse(view: XrayView, by: number): XrayView {
  return {
    ...view,
    pitchMm: view.pitchMm * by,
    width: Math.round(view.width / by),
    height: Math.round(view.height / by)
  };
}

function teeth(seed: number): Thing {
  const whole = mouth(ordinaryMouth(seed));
  const group = toothGroups[seed % toothGroups.length];
  const projection = seed % 3 === 0 ? 'bitewing' : 'periapical';
  const body = mouthBody(whole, beamTeeth(whole, group, projection));
  return {
    bodies: [body],
    view: coarse(toothView(whole, group, projection, true), 2),
    landmarks: body.landmarks
  };
}
function wrist(seed: number): Thing {
  const scene = wristScene(
    { seed, side: 'right', inclinationDeg: 20 + (seed % 5), volarTiltDeg: 11, ulnarVarianceMm: 0.4 },
    seed % 2 ? 'front' : 'side'
  );
  return {
    ...scene,
    landmarks: Object.assign({}, ...scene.bodies.map((body) => body.landmarks)) as Thing['landmarks']
  };
}
function knee(seed: number): Thing {
  const { layers, knee: at } = legAlone(seed, 'right', false);
  const view = xrayView({
    through: at,
    along: seed % 2 ? [0, 1, 0] : [1, 0, 0],
    up: [0, 0, 1],
    toObjectMm: 1050,
    toDetectorMm: 70,
    pitchMm: 0.25,
    width: 640,
    height: 820
  });
  const around: Record<string, Vec3> = {};
  for (const [i, by] of [
    [-30, 0, 40],
    [30, 0, 40],
    [-30, 0, -40],
    [30, 0, -40],
    [0, 20, 0],
    [0, -20, 0]
  ].entries())
    around[`${i}`] = add(at, by as unknown as Vec3);
  return { bodies: [{ layers, landmarks: {} }], view, landmarks: around };
}
function stifle(seed: number): Thing {
  const scene = dogStifleScene({ seed, plateauDeg: 20 + (seed % 8) });
  const landmarks = Object.assign({}, ...scene.bodies.map((body) => body.landmarks)) as Thing['landmarks'];
  return { ...scene, view: coarse(scene.view, 1.5), landmarks };
}
const things = { teeth, wrist, knee, stifle };

const turned = (v: Vec3, axis: Vec3, angle: number): Vec3 =>
  add(
    add(times(v, Math.cos(angle)), times(cross(axis, v), Math.sin(angle))),
    times(axis, dot(axis, v) * (1 - Math.cos(angle)))
  );

/** The same body a year on: tube and detector stand a little elsewhere, the detector lies turned, its pixels are others. */
function again({ view, landmarks }: Thing, random: SeededRandom): XrayView {
  const any = (low: number, high: number) => low + (high - low) * random.uniform();
  const all = Object.values(landmarks);
  const middle = times(
    all.reduce((sum, each) => add(sum, each), [0, 0, 0] as Vec3),
    1 / all.length
  );
  const axis = unit([random.normal(), random.normal(), random.normal()]);
  const tilt = (any(1, 6) * Math.PI) / 180;
  const about = (point: Vec3) => add(middle, turned(sub(point, middle), axis, tilt));
  const normal = cross(view.across, view.down);
  const roll = (any(-12, 12) * Math.PI) / 180;
  const [across, down] = [view.across, view.down].map((each) =>
    turned(turned(each, normal, roll), axis, tilt)
  );
  const [w, h] = [view.width * view.pitchMm, view.height * view.pitchMm];
  const center = about(add(view.corner, add(times(view.across, w / 2), times(view.down, h / 2))));
  const by = any(0.85, 1.18);
  const corner = add(
    center,
    add(times(across, -w / 2 + any(-0.12, 0.12) * w), times(down, -h / 2 + any(-0.12, 0.12) * h))
  );
  return {
    source: about(view.source),
    corner,
    across,
    down,
    pitchMm: view.pitchMm * by,
    width: Math.round(view.width / by),
    height: Math.round(view.height / by)
  };
}

const taken = (bodies: Body[], view: XrayView, k: number, random: SeededRandom): Patch =>
  brightness(
    imaged(attenuationOf(bodies, view), view.width, view.height, anyImaging(transfers[k % 4], random), random)
  );

interface Tried {
  found: boolean;
  /** Places that were found, and those of them that lie where the body's landmarks put them. */
  places: number;
  right: number;
  ms: number;
}
/**
 * In shares of a picture's side, how far a place may lie from where a flat body would have it; more where landmarks
 * themselves do, for a body is no flat sheet.
 */
const leastTolerance = 0.01;

function tried(kind: keyof typeof things, seed: number): Tried {
  const random = seededRandom(seed * 31 + 7);
  const thing = things[kind](seed);
  const other = again(thing, random);
  const now = taken(thing.bodies, thing.view, seed, random);
  const then = taken(thing.bodies, other, seed + 1 + (seed >> 2), random);
  const started = performance.now();
  const found = finished(samePlaces(now, then, 1));
  const ms = performance.now() - started;
  const { width, height } = thing.view;
  const pairs = Object.values(thing.landmarks)
    .map((point) => ({ from: projected(other, point), to: projected(thing.view, point) }))
    .filter(({ to }) => to.x > 0 && to.y > 0 && to.x < width && to.y < height);
  const laid = laidOver(pairs)!;
  const off = ({ from, to }: PointPair) => {
    const at = onto(laid.similarity, from);
    return Math.hypot(at.x - to.x, at.y - to.y) / Math.max(width, height);
  };
  const tolerance = Math.max(leastTolerance, 1.5 * share(pairs.map(off), 0.9));
  const places = found.outcome === 'found' ? found.pairs : [];
  return {
    found: places.length > 0,
    places: places.length,
    right: places.filter((pair) => off(pair) <= tolerance).length,
    ms
  };
}

/** Two takes of one body, by detectors of two makes: how often places are found, and how many of them are right. */
export function truthOfSamePlaces(): Truth[] {
  const out: Truth[] = [];
  const times: number[] = [];
  for (const kind of Object.keys(things) as (keyof typeof things)[]) {
    const all = Array.from({ length: takes }, (_, i) => tried(kind, firstSeed + i));
    times.push(...all.map(({ ms }) => ms));
    const sum = (of: (each: Tried) => number) => all.reduce((total, each) => total + of(each), 0);
    out.push(
      {
        name: `Common points, ${kind}: pairs of pictures in which some are found`,
        right: sum(({ found }) => Number(found)),
        of: takes,
        must: 0.85
      },
      {
        name: `Common points, ${kind}: those that lie on the same place`,
        right: sum(({ right }) => right),
        of: sum(({ places }) => places),
        must: 0.95
      }
    );
  }
  console.log(`Common points: ${(median(times) / 1000).toFixed(1)} s for a pair of pictures`);
  return out;
}

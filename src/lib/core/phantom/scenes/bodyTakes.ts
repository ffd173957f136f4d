import type { Place } from '../../anatomy/place';
import type { BoneRegion } from '../../anatomy/places/bone';
import type { Projection } from '../../anatomy/projections';
import type { Slot } from '../../tray/slot';
import { dogHipsScene } from '../animals/dogHips';
import { dogChestScene, dogStifleScene } from '../animals/dogSide';
import { fetlockScene } from '../animals/fetlock';
import { animalJawScene } from '../animals/jaws';
import { armLayers, armPlaces } from '../bones/arm';
import type { Scene } from '../bones/kit';
import { legAlone, legsScene } from '../bones/legs';
import { neckScene } from '../bones/neck';
import { spineFrontScene, spineSideScene } from '../bones/spine';
import { wristScene } from '../bones/wrist';
import { type Vec3, add, mix, times } from '../space';
import { flatPanel } from '../xray/detector';
import { type ViewWish, xrayView } from '../xray/view';

type Direction = 'front' | 'side' | 'oblique' | 'axial';

const directionOf = (projection: Projection): Direction =>
  projection === 'from the side'
    ? 'side'
    : projection === 'oblique'
      ? 'oblique'
      : projection === 'axial'
        ? 'axial'
        : 'front';

/** Which way the beam goes, and what is up, for a body that faces -y; `out` is 1 for its left side. */
const beams = (out: number): Record<Direction, Pick<ViewWish, 'along' | 'up'>> => ({
  front: { along: [0, 1, 0], up: [0, 0, 1] },
  side: { along: [-out, 0, 0], up: [0, 0, 1] },
  oblique: { along: [-out * 0.7, 0.7, 0], up: [0, 0, 1] },
  axial: { along: [0, 0.42, -0.9], up: [0, 0.9, 0.42] }
});

interface Around {
  through: Vec3;
  pitchMm: number;
  width: number;
  height: number;
}

const table = (beam: Pick<ViewWish, 'along' | 'up'>, around: Around): ReturnType<typeof xrayView> =>
  xrayView({ ...beam, ...around, toObjectMm: 1050, toDetectorMm: 70 });

const panel = { ...flatPanel, black: 0.35, white: 4.4 };

/** The same bodies, seen from another direction. */
const seenAs = (scene: Scene, beam: Pick<ViewWish, 'along' | 'up'>, around: Around): Scene => ({
  ...scene,
  view: table(beam, around)
});

const standing = { width: 900, height: 1200 };

function legTake(region: BoneRegion, side: 'right' | 'left', from: Direction, seed: number): Scene {
  const { layers, hip, knee, ankle } = legAlone(seed, side, region === 'hip');
  const out = side === 'left' ? 1 : -1;
  const around: Partial<Record<BoneRegion, Around>> = {
    hip: { through: add(hip, [0, 0, -20]), pitchMm: 0.24, ...standing },
    femur: { through: mix(hip, knee, 0.5), pitchMm: 0.3, width: 760, height: 1600 },
    knee: { through: knee, pitchMm: 0.17, ...standing },
    'lower leg': { through: mix(knee, ankle, 0.5), pitchMm: 0.28, width: 760, height: 1600 },
    ankle: { through: add(ankle, [0, 0, -8]), pitchMm: 0.16, ...standing },
    'whole leg': { through: mix(hip, ankle, 0.5), pitchMm: 0.42, width: 700, height: 2300 },
    foot: { through: add(ankle, [0, -50, -50]), pitchMm: 0.19, width: 1100, height: 1300 }
  };
  const beam = beams(out)[from];
  // A foot from the front is seen from above: the sole is on the detector.
  const fromAbove = region === 'foot' && from !== 'side';
  const leaning = fromAbove
    ? { along: [from === 'oblique' ? -out * 0.6 : 0, 0.16, -1] as Vec3, up: [0, -1, 0] as Vec3 }
    : beam;
  return {
    bodies: [{ layers, landmarks: {} }],
    view: table(leaning, around[region] ?? { through: knee, pitchMm: 0.17, ...standing }),
    detector: region === 'foot' || region === 'ankle' ? { ...panel, white: 3.4 } : panel,
    truth: {}
  };
}

function armTake(region: BoneRegion, from: Direction, seed: number, size: number): Scene {
  const { shoulder, elbow, wrist } = armPlaces;
  const places: Partial<Record<BoneRegion, { at: Vec3; pitchMm: number; height: number }>> = {
    shoulder: { at: add(shoulder, [-30, 0, -20]), pitchMm: 0.2, height: 1000 },
    clavicle: { at: add(shoulder, [-60, 0, 20]), pitchMm: 0.2, height: 800 },
    'upper arm': { at: mix(shoulder, elbow, 0.5), pitchMm: 0.26, height: 1400 },
    elbow: { at: elbow, pitchMm: 0.15, height: 1200 },
    forearm: { at: mix(elbow, wrist, 0.5), pitchMm: 0.22, height: 1400 }
  };
  const { at, pitchMm, height } = places[region] ?? places.elbow!;
  return {
    bodies: [{ layers: armLayers(seed, size), landmarks: {} }],
    view: table(beams(1)[from], { through: times(at, size), pitchMm: pitchMm * size, width: 900, height }),
    detector: panel,
    truth: {}
  };
}

/** The beam alone, with nothing in it: what is shown of places that nothing simulates. */
const nothing: Scene = {
  bodies: [],
  view: table(beams(1).front, { through: [0, 0, 0], pitchMm: 0.2, ...standing }),
  detector: panel,
  truth: {}
};

const wideStance = { femurMm: 420, tibiaMm: 350, mLdfaDeg: 87, mPtaDeg: 88 };

function personTake(place: Extract<Place, { kind: 'bone' }>, from: Direction, seed: number): Scene {
  const { region } = place;
  const side = place.side === 'left' ? 'left' : 'right';
  switch (region) {
    case 'hand':
    case 'finger':
    case 'wrist': {
      const wish = { seed, side, inclinationDeg: 22, volarTiltDeg: 11, ulnarVarianceMm: 0.4 } as const;
      return wristScene(wish, from === 'front' ? 'front' : 'side');
    }
    case 'whole leg':
    case 'pelvis': {
      if (region === 'whole leg' && place.side !== 'both') return legTake(region, side, from, seed);
      const both = legsScene({ seed, right: wideStance, left: { ...wideStance, mPtaDeg: 86 } });
      if (region === 'whole leg') return both;
      return seenAs(both, beams(1)[from], {
        through: [0, 0, 20],
        pitchMm: 0.32,
        width: 1300,
        height: 1000
      });
    }
    case 'shoulder':
    case 'clavicle':
    case 'upper arm':
    case 'elbow':
    case 'forearm':
      return armTake(region, from, seed, 1);
    case 'skull':
      return nothing;
    default:
      return legTake(region, side, from, seed);
  }
}

function animalTake(place: Extract<Place, { kind: 'bone' }>, from: Direction, seed: number): Scene {
  const { region } = place;
  const beam = beams(1)[from];
  if (/fetlock|foot/.test(region)) {
    const scene = fetlockScene({ seed, jointDeg: 150, chip: seed % 3 === 0 });
    const through: Vec3 = /foot/.test(region) ? [0, -90, -130] : [0, -40, -30];
    return from === 'side' && /fetlock/.test(region)
      ? scene
      : seenAs(scene, beam, { through, pitchMm: 0.17, width: 900, height: 1200 });
  }
  if (region === 'stifle' || region === 'tarsus') {
    const scene = dogStifleScene({ seed, plateauDeg: 24 });
    return from === 'side'
      ? scene
      : seenAs(scene, beam, { through: [0, 0, -20], pitchMm: 0.15, ...standing });
  }
  if (region === 'hip' || region === 'pelvis' || region === 'femur')
    return dogHipsScene({ seed, rightDeg: 106, leftDeg: 103 });
  return armTake(region === 'shoulder' ? 'shoulder' : 'elbow', from, seed, 0.62);
}

function spineTake(place: Extract<Place, { kind: 'spine' }>, from: Direction, seed: number): Scene {
  const curve = { seed, curves: [{ upper: 'T6', lower: 'L1', cobbDeg: 12, convex: 'right' as const }] };
  if (place.region === 'neck') {
    const neck = neckScene({ seed, position: 'neutral', segmentsDeg: [3, 4, 3, 4, 4] });
    return from === 'side'
      ? neck
      : seenAs(neck, beams(1).front, { through: [0, -14, 4], pitchMm: 0.2, width: 1000, height: 1300 });
  }
  const scene =
    from === 'side'
      ? spineSideScene({ seed, incidenceDeg: 52, tiltDeg: 13, lordosisDeg: 56, kyphosisDeg: 42 })
      : spineFrontScene(curve);
  if (place.region === 'whole') return scene;
  const through: Vec3 = from === 'side' ? [0, -10, 90] : [0, 0, 90];
  const wide = { through, pitchMm: 0.22, width: 1000, height: 1300 };
  return seenAs(scene, beams(1)[from === 'side' ? 'side' : 'front'], wide);
}

/** Where along a jaw teeth stand, in shares of its length, by what they are. */
const alongJaw = (tooth: number): number =>
  [0, 0.02, 0.04, 0.06, 0.1, 0.2, 0.28, 0.38, 0.5, 0.66, 0.8, 0.9][tooth % 100];

function animalTeethTake(slot: Slot, seed: number): Scene {
  const teeth = slot.places.flatMap((place) => (place.kind === 'animal tooth' ? [place] : []));
  const species = teeth[0].species === 'cat' ? 'cat' : 'dog';
  const scene = animalJawScene({ seed, species });
  const length = species === 'cat' ? 52 : 120;
  const share = teeth.reduce((sum, { tooth }) => sum + alongJaw(tooth), 0) / teeth.length;
  const upper = [1, 2].includes(Math.floor(teeth[0].tooth / 100));
  const left = [2, 3].includes(Math.floor(teeth[0].tooth / 100));
  const size = slot.shape === 'standing' ? { width: 700, height: 950 } : { width: 1100, height: 800 };
  return {
    ...scene,
    view: xrayView({
      through: [0, share * length, species === 'cat' ? -1 : -3],
      along: [left === upper ? 1 : -1, 0, 0],
      up: [0, 0, upper ? -1 : 1],
      toObjectMm: 400,
      toDetectorMm: 12,
      pitchMm: species === 'cat' ? 0.032 : 0.06,
      ...size
    })
  };
}

/** What a panel, or a sensor in an animal's mouth, sees of the body for a slot. The same seed is the same patient. */
export function bodyTakeScene(slot: Slot, seed: number): Scene {
  const [place] = slot.places;
  if (!place) return nothing;
  const from = directionOf(slot.projection);
  switch (place.kind) {
    case 'bone':
      return place.whose === 'person' ? personTake(place, from, seed) : animalTake(place, from, seed);
    case 'spine':
      return spineTake(place, from, seed);
    case 'trunk': {
      const chest = dogChestScene({ seed, lengthInVertebrae: 5.2, widthInVertebrae: 4.4 });
      return from === 'side'
        ? chest
        : seenAs(
            chest,
            { along: [0, 0, 1], up: [0, -1, 0] },
            { through: [0, 6, 10], pitchMm: 0.25, width: 1000, height: 1500 }
          );
    }
    case 'animal tooth':
      return animalTeethTake(slot, seed);
    default:
      return nothing;
  }
}

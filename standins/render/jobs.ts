import { type DogHipsWish, dogHipsScene } from '../../src/lib/core/phantom/animals/dogHips';
import {
  type DogChestWish,
  type StifleWish,
  dogChestScene,
  dogStifleScene
} from '../../src/lib/core/phantom/animals/dogSide';
import { type FetlockWish, fetlockScene } from '../../src/lib/core/phantom/animals/fetlock';
import { type AnimalJawWish, animalJawScene } from '../../src/lib/core/phantom/animals/jaws';
import { type Scene, sceneRadiograph } from '../../src/lib/core/phantom/bones/kit';
import {
  type LegsWish,
  type ShaftWish,
  brokenShaftScene,
  legsScene
} from '../../src/lib/core/phantom/bones/legs';
import { type NeckWish, neckScene } from '../../src/lib/core/phantom/bones/neck';
import {
  type CurveWish,
  type SideWish,
  spineFrontScene,
  spineSideScene
} from '../../src/lib/core/phantom/bones/spine';
import { type WristWish, wristScene } from '../../src/lib/core/phantom/bones/wrist';
import { type RingImageWish, ringImage } from '../../src/lib/core/phantom/eye/ringImage';
import { mouthPhotograph, woundPhotograph } from '../../src/lib/core/phantom/photo/closeUps';
import { type FigureView, type FigureWish, figurePhotograph } from '../../src/lib/core/phantom/photo/figure';
import { type MouthWish, mouth } from '../../src/lib/core/phantom/teeth/dentition';
import type { SensorFault } from '../../src/lib/core/phantom/teeth/faultNames';
import { panoramic } from '../../src/lib/core/phantom/teeth/panoramic';
import { faultsOf, faultyTake, turnedWrong } from '../../src/lib/core/phantom/teeth/sensorFaults';
import { sensorPitchMm } from '../../src/lib/core/phantom/teeth/views';
import { eweWithLamb } from '../../src/lib/core/phantom/ultrasound/anatomies';
import { sectorLoop } from '../../src/lib/core/phantom/ultrasound/sector';
import { bodyTakeScene } from '../../src/lib/core/phantom/scenes/bodyTakes';
import { exposed } from '../../src/lib/core/phantom/xray/detector';
import { layLetter } from '../../src/lib/core/phantom/xray/leadLetter';
import { attenuationOf } from '../../src/lib/core/phantom/xray/radiograph';
import { seededRandom } from '../../src/lib/core/random';
import { inverse, turnRaster } from '../../src/lib/core/raster/turnRaster';
import type { Raster } from '../../src/lib/core/raster/raster';
import { type Slot, slotSide } from '../../src/lib/core/tray/slot';

/** A simulated picture to be made, as plain data that can be sent to another thread. */
export type RenderJob =
  | { kind: 'tooth'; mouth: MouthWish; slot: Slot; seed: number; fault: SensorFault | null }
  | { kind: 'body'; slot: Slot; patient: number; seed: number; fault: SensorFault | null }
  | { kind: 'panoramic'; mouth: MouthWish; seed: number }
  | { kind: 'mouth photograph'; mouth: MouthWish; seed: number }
  | { kind: 'wound'; seed: number; lengthMm: number; widthMm: number }
  | { kind: 'figure'; wish: FigureWish; from: FigureView }
  | { kind: 'wrist'; wish: WristWish; from: 'front' | 'side'; ballMm?: number; seed: number }
  | { kind: 'spine front'; wish: CurveWish; seed: number }
  | { kind: 'spine side'; wish: SideWish; seed: number }
  | { kind: 'neck'; wish: NeckWish; seed: number }
  | { kind: 'legs'; wish: LegsWish; seed: number }
  | { kind: 'broken shaft'; wish: ShaftWish; from: 'front' | 'side'; seed: number }
  | { kind: 'dog hips'; wish: DogHipsWish; seed: number }
  | { kind: 'dog stifle'; wish: StifleWish; seed: number }
  | { kind: 'dog chest'; wish: DogChestWish; seed: number }
  | { kind: 'animal jaw'; wish: AnimalJawWish; seed: number }
  | { kind: 'fetlock'; wish: FetlockWish; seed: number }
  | { kind: 'eye'; wish: RingImageWish }
  | { kind: 'ewe'; seed: number; burnedIn: string[] };

export interface Rendered {
  /** One of a picture, several of a loop. */
  frames: Raster[];
  /** Of the detector; null for photographs. */
  pitchMm: number | null;
  /** From frame to frame of a loop. */
  frameMs: number | null;
}

const still = (raster: Raster, pitchMm: number | null): Rendered => ({
  frames: [raster],
  pitchMm,
  frameMs: null
});

const loopFrames = 32;
const framesPerSecond = 24;

/** How high the steel ball lies over the detector. */
export const ballOverDetectorMm = 12;

function sceneOf(job: RenderJob): Scene | null {
  switch (job.kind) {
    case 'wrist':
      return wristScene(
        job.wish,
        job.from,
        job.ballMm ? { diameterMm: job.ballMm, overDetectorMm: ballOverDetectorMm } : undefined
      );
    case 'spine front':
      return spineFrontScene(job.wish);
    case 'spine side':
      return spineSideScene(job.wish);
    case 'neck':
      return neckScene(job.wish);
    case 'legs':
      return legsScene(job.wish);
    case 'broken shaft':
      return brokenShaftScene(job.wish, job.from);
    case 'dog hips':
      return dogHipsScene(job.wish);
    case 'dog stifle':
      return dogStifleScene(job.wish);
    case 'dog chest':
      return dogChestScene(job.wish);
    case 'animal jaw':
      return animalJawScene(job.wish);
    case 'fetlock':
      return fetlockScene(job.wish);
    default:
      return null;
  }
}

function bodyTake(slot: Slot, patient: number, seed: number, fault: SensorFault | null): Rendered {
  const scene = bodyTakeScene(slot, patient);
  const { width, height, pitchMm } = scene.view;
  const faults = fault ? faultsOf(fault, { width, height }) : {};
  const map = attenuationOf(scene.bodies, scene.view);
  const side = slotSide(slot);
  // Whoever takes a bone lays the letter of its side beside it.
  if (side && slot.places[0]?.kind === 'bone')
    layLetter(map, { width, height }, pitchMm, side === 'right' ? 'R' : 'L', ((seed * 7) % 15) - 7);
  const upright = turnedWrong(exposed(map, width, height, scene.detector, seededRandom(seed), faults), fault);
  return still(turnRaster(upright, inverse(slot.orientation)), pitchMm);
}

export function rendered(job: RenderJob): Rendered {
  const scene = sceneOf(job);
  if (scene) {
    const seed = 'seed' in job ? job.seed : 1;
    return still(sceneRadiograph(scene, seed).raster, scene.view.pitchMm);
  }
  switch (job.kind) {
    case 'body':
      return bodyTake(job.slot, job.patient, job.seed, job.fault);
    case 'tooth':
      return still(faultyTake(mouth(job.mouth), job.slot, job.seed, job.fault), sensorPitchMm);
    case 'panoramic': {
      const { raster, pitchMm } = panoramic(mouth(job.mouth), job.seed);
      return still(raster, pitchMm);
    }
    case 'mouth photograph':
      return still(mouthPhotograph(mouth(job.mouth), job.seed), null);
    case 'wound':
      return still(woundPhotograph(job.seed, job.lengthMm, job.widthMm).raster, null);
    case 'figure':
      return still(figurePhotograph(job.wish, job.from).raster, null);
    case 'eye':
      return still(ringImage(job.wish).raster, null);
    case 'ewe': {
      const loop = sectorLoop({
        anatomy: eweWithLamb(job.seed),
        seed: job.seed,
        frames: loopFrames,
        framesPerSecond,
        depthMm: 125,
        burnedIn: job.burnedIn
      });
      return { frames: loop.frames, pitchMm: null, frameMs: 1000 / framesPerSecond };
    }
    default:
      throw new RangeError(`nothing renders ${job.kind}`);
  }
}

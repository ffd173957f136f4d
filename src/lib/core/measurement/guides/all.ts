import { heartScore, hipCover, plateauAngle } from './animals';
import { hipRoof } from './childHip';
import { eyeWidths } from './eye';
import { greatToe, heelBone } from './foot';
import type { Guide } from './guide';
import { kneeCap } from './knee';
import { legAxes, legLengthDifference } from './legs';
import { neckCurve } from './neck';
import { pelvisSide } from './pelvis';
import { posture } from './posture';
import { spineCurve } from './spineCurve';
import { crestalBone, workingLength } from './teeth';
import { distalRadius } from './wrist';

/** Every guide that ships, in the order of the trades. */
export const guides: readonly Guide[] = [
  workingLength,
  crestalBone,
  legLengthDifference,
  legAxes,
  hipRoof,
  kneeCap,
  heelBone,
  greatToe,
  distalRadius,
  spineCurve,
  neckCurve,
  pelvisSide,
  posture,
  hipCover,
  heartScore,
  plateauAngle,
  eyeWidths
];

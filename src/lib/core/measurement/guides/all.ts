import { heartScore, hipCover, plateauAngle } from './animals';
import { eyeWidths } from './eye';
import type { Guide } from './guide';
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

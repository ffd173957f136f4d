import { hipCover } from './dogHips';
import { heartOfCats, heartScore } from './heartScore';
import { plateauAngle } from './plateauAngle';
import { cariesDepth } from './caries';
import { chestShape } from './catChest';
import { hipRoof } from './childHip';
import { elbowFit } from './dogElbow';
import { kneeCapOfDogs } from './dogKneeCap';
import { eyeWidths } from './eye';
import { greatToe, heelBone } from './foot';
import type { Guide } from './guide';
import { hoof } from './hoof';
import { implantSite, sinusHeight } from './implantSite';
import { kneeCap } from './knee';
import { legAxes, legLengthDifference } from './legs';
import { neckCurve } from './neck';
import { pelvisSide } from './pelvis';
import { posture } from './posture';
import { shoulderRoom } from './shoulder';
import { spineBalance } from './spineBalance';
import { spineCurve } from './spineCurve';
import { crestalBone, workingLength } from './teeth';
import { distalRadius } from './wrist';

/** Every guide that ships, in the order of the trades. */
export const guides: readonly Guide[] = [
  workingLength,
  crestalBone,
  cariesDepth,
  sinusHeight,
  implantSite,
  legLengthDifference,
  legAxes,
  hipRoof,
  kneeCap,
  heelBone,
  greatToe,
  shoulderRoom,
  distalRadius,
  spineCurve,
  spineBalance,
  neckCurve,
  pelvisSide,
  posture,
  hipCover,
  heartScore,
  heartOfCats,
  chestShape,
  plateauAngle,
  kneeCapOfDogs,
  elbowFit,
  hoof,
  eyeWidths
];

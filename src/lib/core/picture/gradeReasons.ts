import type { AdviceKind } from '../raster/advice/adviceKind';

/** How well a picture serves what it was taken for. */
export const grades = ['diagnostic', 'limited', 'not diagnostic'] as const;
export type Grade = (typeof grades)[number];

/** Why a picture serves less than it should, or was taken again. */
export const gradeReasons = [
  'under-exposed',
  'over-exposed',
  'part cut off',
  'motion',
  'position',
  'overlap',
  'wrong place or side',
  'turned or mirrored',
  'artefact',
  'other'
] as const;
export type GradeReason = (typeof gradeReasons)[number];

const ofAdvice: Record<AdviceKind, GradeReason> = {
  'nothing exposed': 'under-exposed',
  'under-exposed': 'under-exposed',
  'over-exposed': 'over-exposed',
  clipped: 'over-exposed',
  'edge cut off': 'part cut off',
  moved: 'motion',
  'lines missing': 'artefact',
  'same again': 'other',
  turned: 'turned or mirrored',
  'other side': 'wrong place or side'
};

/** `reasonOfAdvice('moved')` is 'motion': what a person would call what the computer saw. */
export const reasonOfAdvice = (kind: AdviceKind): GradeReason => ofAdvice[kind];

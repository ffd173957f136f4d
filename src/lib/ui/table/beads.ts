import { numberWords } from '../writing';
import type { LookStep } from '$core/raster/look/look';
import type { Adding } from '$core/raster/look/starters';

/** One slider of a step. */
export interface BeadSlider {
  label: string;
  value: number;
  least: number;
  most: number;
  /** From one value to the next; 'share' for moving by shares, so that small values are as easy to reach as large ones. */
  step: number | 'share';
  /** As it stands beside the slider. */
  said: (value: number) => string;
  with: (value: number) => LookStep;
}

export const addable: readonly { kind: Adding; words: string; colourToo: boolean }[] = [
  { kind: 'unsharp', words: 'Sharpen', colourToo: true },
  { kind: 'local contrast', words: 'Local contrast', colourToo: false },
  { kind: 'smooth', words: 'Smooth', colourToo: true },
  { kind: 'keep edges', words: 'Smooth, keep edges', colourToo: false },
  { kind: 'median', words: 'Median', colourToo: true },
  { kind: 'gamma', words: 'Gamma', colourToo: true },
  { kind: 'equalise', words: 'Equalise', colourToo: false }
];

const otherWords: Partial<Record<LookStep['kind'], string>> = {
  window: 'Window',
  table: 'Table from the file',
  invert: 'Invert'
};
export const stepWords = (kind: LookStep['kind']): string =>
  otherWords[kind] ?? addable.find((each) => each.kind === kind)!.words;

/** A slider moves over whole positions, from 0 on. */
const sharePositions = 60;
export const positionsOf = ({ least, most, step }: BeadSlider): number =>
  step === 'share' ? sharePositions : Math.round((most - least) / step);

export function positionOf(slider: BeadSlider): number {
  const { value, least, most, step } = slider;
  const along =
    step === 'share' ? Math.log(value / least) / Math.log(most / least) : (value - least) / (most - least);
  return Math.round(along * positionsOf(slider));
}

/** The value at a position, to four digits: what is stored reads well. */
export function valueAt(slider: BeadSlider, position: number): number {
  const { least, most, step } = slider;
  const along = position / positionsOf(slider);
  const value = step === 'share' ? least * (most / least) ** along : least + along * (most - least);
  return Number(value.toPrecision(4));
}

const px = (value: number) => `${numberWords(value, 1)} px`;

/** The sliders of a step. @param width of the values that it works on */
export function slidersOf(step: LookStep, width: number): BeadSlider[] {
  switch (step.kind) {
    case 'gamma':
      return [
        {
          label: 'Gamma',
          value: step.gamma,
          least: 0.3,
          most: 3,
          step: 'share',
          said: (value) => numberWords(value, 2),
          with: (gamma) => ({ ...step, gamma })
        }
      ];
    case 'unsharp':
      return [
        {
          label: 'How much',
          value: step.amount,
          least: 0,
          most: 5,
          step: 0.1,
          said: (value) => numberWords(value, 1),
          with: (amount) => ({ ...step, amount })
        },
        {
          label: 'How wide',
          value: step.sigmaPx,
          least: 0.5,
          most: 20,
          step: 'share',
          said: px,
          with: (sigmaPx) => ({ ...step, sigmaPx })
        }
      ];
    case 'smooth':
      return [
        {
          label: 'How wide',
          value: step.sigmaPx,
          least: 0.3,
          most: 12,
          step: 'share',
          said: px,
          with: (sigmaPx) => ({ ...step, sigmaPx })
        }
      ];
    case 'median':
      return [
        {
          label: 'How wide',
          value: step.radiusPx,
          least: 1,
          most: 2,
          step: 1,
          said: (value) => `${2 * value + 1} px`,
          with: (radiusPx) => ({ ...step, radiusPx: radiusPx === 1 ? 1 : 2 })
        }
      ];
    case 'keep edges':
      return [
        {
          label: 'What counts as an edge',
          value: step.range / width,
          least: 0.005,
          most: 0.3,
          step: 'share',
          said: (value) => `${numberWords(100 * value, 1)} %`,
          with: (share) => ({ ...step, range: share * width })
        },
        {
          label: 'How wide',
          value: step.radiusPx,
          least: 1,
          most: 6,
          step: 1,
          said: (value) => `${2 * value + 1} px`,
          with: (radiusPx) => ({ ...step, radiusPx: Math.round(radiusPx) })
        }
      ];
    case 'local contrast':
      return [
        {
          label: 'How much',
          value: step.clip,
          least: 1,
          most: 12,
          step: 0.1,
          said: (value) => numberWords(value, 1),
          with: (clip) => ({ ...step, clip })
        },
        {
          label: 'How fine',
          value: step.tiles,
          least: 2,
          most: 24,
          step: 1,
          said: (value) => `${Math.round(value)} tiles`,
          with: (tiles) => ({ ...step, tiles: Math.round(tiles) })
        }
      ];
    default:
      return [];
  }
}

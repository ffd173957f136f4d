import type { AdviceKind } from '../raster/advice/adviceKind';
import type { Point } from '../raster/orientation';

/** What the computer saw in a take, as pages show it: advice, and who said that it is not so. */
export interface AdviceView {
  kind: AdviceKind;
  /** 0 to 1. */
  confidence: number;
  description: string;
  /** The place it is about, in image points. */
  where?: Point[];
  /** Who said that it is not so; null while nobody has. */
  deniedBy: string | null;
}

/** The advice that stands: what nobody has denied, the surest first. */
export const standingAdvice = (advice: readonly AdviceView[] | null): AdviceView[] =>
  (advice ?? []).filter((each) => each.deniedBy === null);

const shortWords: Record<AdviceKind, string> = {
  'nothing exposed': 'nothing on it',
  'under-exposed': 'under-exposed',
  'over-exposed': 'over-exposed',
  clipped: 'clipped',
  'edge cut off': 'edge cut off',
  moved: 'blurred',
  'lines missing': 'lines missing',
  'same again': 'same again',
  turned: 'turned?',
  'other side': 'other side?'
};

/** As short as a well needs it. */
export const adviceInShort = ({ kind }: Pick<AdviceView, 'kind'>): string => shortWords[kind];

import { type Look, type LookStep, activeSteps, inserted, isInverted, windowOf } from './look';

/** Adjustments that a person can add. */
export type Adding = Exclude<LookStep['kind'], 'window' | 'table' | 'invert'>;

/** An adjustment as it begins; it works on what is seen already, from 0 (black) to 1 (white). */
export function starter(kind: Adding): LookStep {
  switch (kind) {
    case 'gamma':
      return { kind, gamma: 1.4 };
    case 'equalise':
      return { kind };
    case 'local contrast':
      return { kind, tiles: 8, clip: 2, low: 0, high: 1 };
    case 'unsharp':
      return { kind, sigmaPx: 3, amount: 1, threshold: 0 };
    case 'smooth':
      return { kind, sigmaPx: 1.5 };
    case 'median':
      return { kind, radiusPx: 1 };
    case 'keep edges':
      return { kind, radiusPx: 3, range: 0.04 };
  }
}

/** The look with an adjustment added at the end of what counts. */
export const withAdded = (look: Look, kind: Adding): Look =>
  inserted(look, look.knot ?? look.steps.length, starter(kind));

/** A named part of what a picture shows, for what a person wants to see in it. */
export interface Preset {
  id: string;
  words: string;
  /** Shares of the first look's window, from what lets rays through (0) to what stops them (1). */
  from: number;
  to: number;
  gamma?: number;
  sharpen?: number;
  localContrast?: number;
}

/** What people look for, by trade. The shares fit pictures whose first look spans from air to metal or dense bone. */
export const presets: Record<'teeth' | 'bones', readonly Preset[]> = {
  teeth: [
    { id: 'teeth', words: 'Teeth', from: 0.15, to: 1, sharpen: 0.6 },
    { id: 'caries', words: 'Caries', from: 0.3, to: 0.95, gamma: 0.8, sharpen: 0.8 },
    { id: 'root', words: 'Root', from: 0.1, to: 0.75, sharpen: 0.8, localContrast: 2 },
    { id: 'crest', words: 'Bone crest', from: 0.02, to: 0.6, gamma: 1.1 },
    { id: 'metal', words: 'Metal', from: 0.7, to: 1.15 }
  ],
  bones: [
    { id: 'bone', words: 'Bone', from: 0.2, to: 1, sharpen: 0.6 },
    { id: 'fine-bone', words: 'Fine bone', from: 0.2, to: 0.95, sharpen: 1, localContrast: 2 },
    { id: 'soft', words: 'Soft tissue', from: 0, to: 0.45 },
    { id: 'metal', words: 'Metal', from: 0.7, to: 1.2 }
  ]
};

/** A preset as a look for one picture. @param first the look it opens with */
export function presetLook({ from, to, gamma, sharpen, localContrast }: Preset, first: Look): Look {
  const window = windowOf(first) ?? { center: 0.5, width: 1 };
  const [low, high] = [window.center - window.width / 2, window.center + window.width / 2];
  // Where little of the rays shows bright, what stops them has the low values.
  const turned = isInverted(first);
  const at = (share: number) => (turned ? high - share * (high - low) : low + share * (high - low));
  const [a, b] = [at(from), at(to)];
  const steps: LookStep[] = [
    { kind: 'window', center: (a + b) / 2, width: Math.max(1, Math.abs(b - a)), by: 'linear' },
    ...activeSteps(first).filter(({ kind }) => kind === 'invert')
  ];
  if (gamma) steps.push({ kind: 'gamma', gamma });
  if (localContrast) steps.push({ kind: 'local contrast', tiles: 8, clip: localContrast, low: 0, high: 1 });
  if (sharpen) steps.push({ kind: 'unsharp', sigmaPx: 3, amount: sharpen, threshold: 0 });
  return { steps };
}

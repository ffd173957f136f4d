import { z } from 'zod';

/** What a key of a foot pedal can do at the chair. */
export const pedalActs = ['ready', 'anchor', 'next slot', 'still', 'retake last'] as const;
export type PedalAct = (typeof pedalActs)[number];

export const pedalActWords: Record<PedalAct, string> = {
  ready: 'Get ready',
  anchor: 'Anchor, or lift it',
  'next slot': 'Next slot',
  still: 'Camera still',
  'retake last': 'Retake the last'
};

/** Pedals write keys as a keyboard does. Keys that the screen needs for itself can't be given away. */
const taken = new Set(['Tab', 'Escape', 'Enter', ' ', '?', 'Shift', 'Control', 'Alt', 'Meta']);
export const isPedalKey = (key: string): boolean => key.length > 0 && key.length <= 20 && !taken.has(key);

const key = z.string().refine(isPedalKey, 'this key is needed by the screen');

/** Keys by what they do; the same key does one thing only. What can't be read counts as not set. */
export const pedalWish = z
  .partialRecord(z.enum(pedalActs), key)
  .refine(
    (keys) => new Set(Object.values(keys)).size === Object.values(keys).length,
    'one key does two things'
  );
export type Pedal = z.infer<typeof pedalWish>;
export const pedalSchema = pedalWish.catch({});

export const pedalActOf = (pedal: Pedal, pressed: string): PedalAct | null =>
  pedalActs.find((act) => pedal[act] === pressed) ?? null;

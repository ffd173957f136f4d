import { z } from 'zod';
import { projectionNames } from '../anatomy/projections';
import { type Category, type PictureKind, pictureKinds } from './pictureView';

/** What is filed under a category by itself: a picture that fits every part that is not empty. */
export const categoryRuleSchema = z
  .strictObject({
    kinds: z.array(z.enum(pictureKinds)).max(pictureKinds.length).default([]),
    /** Names of projections. */
    views: z.array(z.enum(projectionNames)).max(projectionNames.length).default([]),
    devices: z.array(z.string().trim().min(1).max(120)).max(20).default([]),
    /** Any of these, in its name, its file's name or its remark; small and capital letters are the same. */
    words: z.array(z.string().trim().min(2).max(60)).max(20).default([])
  })
  .refine(
    ({ kinds, views, devices, words }) => kinds.length + views.length + devices.length + words.length > 0,
    'Say what it files.'
  );
export type CategoryRule = z.infer<typeof categoryRuleSchema>;

/** A category as those see it who may change it. */
export interface RuledCategory extends Category {
  rule: CategoryRule | null;
}

/** What a rule looks at. */
export interface RuledPicture {
  kind: PictureKind;
  projection: string | null;
  device: string;
  words: string;
}

/**
 * Whether a picture is filed by a rule. `fitsRule({ kinds: ['photograph'], views: [], devices: [], words: ['before'] },
 * { kind: 'photograph', projection: null, device: 'Camera', words: 'Before treatment' })` is true.
 */
export function fitsRule(rule: CategoryRule, picture: RuledPicture): boolean {
  const has = <T>(wanted: readonly T[], is: boolean) => wanted.length === 0 || is;
  const text = picture.words.toLowerCase();
  return (
    has(rule.kinds, rule.kinds.includes(picture.kind)) &&
    has(rule.views, (rule.views as readonly (string | null)[]).includes(picture.projection)) &&
    has(rule.devices, rule.devices.includes(picture.device)) &&
    has(
      rule.words,
      rule.words.some((word) => text.includes(word.toLowerCase()))
    )
  );
}

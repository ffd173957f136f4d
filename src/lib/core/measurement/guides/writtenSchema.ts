import { z } from 'zod';
import { measureKinds, writtenMeasures } from './writtenMeasures';

const words = (most: number) =>
  z.string().trim().min(1, 'no words stand here').max(most, `more than ${most} letters stand here`);
/** Keys are joined by a point where a result names its landmarks. */
const key = z
  .string()
  .regex(/^[a-z0-9][a-z0-9 -]{0,39}$/, 'a key has small letters, figures, spaces and lines');
const share = z.number().min(0).max(1);

const source = z.strictObject({
  author: words(120),
  year: z.number().int().min(1500).max(2200),
  title: words(300)
});

const landmark = z.strictObject({
  key,
  name: words(60),
  /** Where it is, in words. */
  where: words(240),
  /** Its place on the view's drawing, from its left and from its top, as a share of its side. */
  x: share,
  y: share
});

const view = z.strictObject({
  key,
  name: words(80),
  landmarks: z.array(landmark).min(1).max(40),
  /** The drawing that the landmarks lie on, one of those that ship, by guide and view; null for none. */
  drawing: words(80).nullable(),
  /** Landmarks that a line joins. */
  lines: z.array(z.tuple([key, key])).max(60)
});

const result = z.strictObject({
  key,
  name: words(80),
  measure: z.enum(writtenMeasures),
  /** Which view all its landmarks lie in. */
  view: key,
  /** The landmarks it is measured between, in the measure's own order. */
  of: z.array(key).min(2).max(40),
  source,
  /** Null on a side without a limit. */
  normal: z
    .strictObject({ low: z.number().nullable(), high: z.number().nullable() })
    .refine(({ low, high }) => low !== null || high !== null, 'a range has a limit on one side at least')
    .refine(({ low, high }) => low === null || high === null || low < high, 'a range rises from low to high')
    .nullable(),
  /** What it can be wrong by, or what its size means. */
  mind: z.string().trim().max(300)
});

/** A guide that a clinic wrote itself, as it is stored, exported and brought in. */
export const writtenGuideSchema = z
  .strictObject({
    format: z.literal('yonder-tray guide'),
    formatVersion: z.literal(1),
    name: words(80),
    trade: z.enum(['teeth', 'bones', 'animals', 'eyes']),
    views: z.array(view).min(1).max(6),
    results: z.array(result).min(1).max(40)
  })
  .superRefine(({ views, results }, context) => {
    const says = (message: string, ...path: (string | number)[]) =>
      context.addIssue({ code: 'custom', message, path });
    const twice = (keys: string[]) => keys.find((each, i) => keys.indexOf(each) !== i);
    const double = twice(views.map((each) => each.key)) ?? twice(results.map((each) => each.key)) ?? null;
    if (double !== null) says(`two things have the key ${double}`);
    views.forEach(({ name, landmarks, lines }, i) => {
      const keys = landmarks.map((each) => each.key);
      if (twice(keys) !== undefined) says(`two landmarks of ${name} have the key ${twice(keys)}`, 'views', i);
      const loose = lines.flat().find((end) => !keys.includes(end));
      if (loose !== undefined)
        says(`a line of ${name} ends at ${loose}, which is no landmark of it`, 'views', i);
    });
    results.forEach(({ name, measure, view: on, of }, i) => {
      const keys = views.find((each) => each.key === on)?.landmarks.map((each) => each.key);
      if (!keys) return says(`${name} is measured in ${on}, which is no view of this guide`, 'results', i);
      const loose = of.find((each) => !keys.includes(each));
      if (loose !== undefined) says(`${name} needs ${loose}, which is no landmark of its view`, 'results', i);
      const { least, most } = measureKinds[measure];
      if (of.length < least || of.length > most)
        says(
          `${name} needs ${least === most ? least : `${least} or more`} landmarks and has ${of.length}`,
          'results',
          i
        );
      if (twice(of) !== undefined && measure !== 'angle between lines' && measure !== 'ratio')
        says(`${name} needs the same landmark twice`, 'results', i);
    });
  });
export type WrittenGuide = z.infer<typeof writtenGuideSchema>;
export type WrittenResult = WrittenGuide['results'][number];

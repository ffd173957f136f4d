import { z } from 'zod';
import type { Versioned } from '../versioned';
import type { ProfileOption } from './profileTable';

/**
 * How a clinic lets pictures leave without their identity: the basic profile of PS3.15 Annex E, and which of its options.
 * A file's own private attributes never leave: objects are written anew. Ours, which tell of drawings, may.
 */
const schema = z.strictObject({
  /** Taken out, moved by a number of days of the patient's own, or left as they are. */
  dates: z.enum(['removed', 'moved', 'kept']),
  /** Where dates are moved: moved with them, so that pictures keep their order and distance, or all set to noon. */
  times: z.enum(['moved', 'noon']),
  /** Whether numbers that computers know pictures by stay: then they can be found again by whoever has the originals. */
  uids: z.enum(['replaced', 'kept']),
  device: z.boolean(),
  institution: z.boolean(),
  /** Sex, age, size, weight; of an animal species and breed. */
  characteristics: z.boolean(),
  /** What people wrote: dropped, or kept with names and numbers of the chart taken out. */
  words: z.enum(['dropped', 'cleaned']),
  /** Readings as a structured report: not at all, or with words cleaned. */
  structured: z.enum(['dropped', 'cleaned']),
  /** Drawings as a presentation state: not at all, or with words cleaned. */
  graphics: z.enum(['dropped', 'cleaned']),
  /** Our own private element beside drawings, so that they are read back as readings: words cleaned, numbers replaced. */
  safePrivate: z.boolean()
});
export type LeavingRule = z.infer<typeof schema>;

export const leavingRule: Versioned<LeavingRule> = {
  version: 2,
  schema,
  upcasters: { 1: (body) => ({ ...(body as object), safePrivate: false }) }
};

/** The rule of a clinic that has made none: dates moved, nothing retained that the profile takes out. */
export const usualRule: LeavingRule = {
  dates: 'moved',
  times: 'moved',
  uids: 'replaced',
  device: false,
  institution: false,
  characteristics: false,
  words: 'dropped',
  structured: 'dropped',
  graphics: 'dropped',
  safePrivate: false
};

/** Our private element tells of drawings, and leaves with them or not at all. */
export const privateLeaves = ({ safePrivate, graphics }: LeavingRule): boolean =>
  safePrivate && graphics === 'cleaned';

/** The options of the profile's table that a rule makes use of. */
export function optionsOf(rule: LeavingRule): Set<ProfileOption> {
  const chosen: [boolean, ProfileOption][] = [
    [rule.uids === 'kept', 'uids'],
    [rule.device, 'device'],
    [rule.institution, 'institution'],
    [rule.characteristics, 'characteristics'],
    [rule.dates === 'kept', 'fullDates'],
    [rule.dates === 'moved', 'movedDates'],
    [rule.words === 'cleaned', 'descriptors'],
    [rule.structured === 'cleaned', 'structured'],
    [rule.graphics === 'cleaned', 'graphics'],
    [privateLeaves(rule), 'safePrivate']
  ];
  return new Set(chosen.flatMap(([is, option]) => (is ? [option] : [])));
}

type Code = readonly [value: string, meaning: string];

/** Codes of the options (PS3.16 CID 7050), said in the object. */
const optionCodes: Readonly<Record<ProfileOption, Code>> = {
  safePrivate: ['113111', 'Retain Safe Private Option'],
  uids: ['113110', 'Retain UIDs Option'],
  device: ['113109', 'Retain Device Identity Option'],
  institution: ['113112', 'Retain Institution Identity Option'],
  characteristics: ['113108', 'Retain Patient Characteristics Option'],
  fullDates: ['113106', 'Retain Longitudinal Temporal Information Full Dates Option'],
  movedDates: ['113107', 'Retain Longitudinal Temporal Information Modified Dates Option'],
  descriptors: ['113105', 'Clean Descriptors Option'],
  structured: ['113104', 'Clean Structured Content Option'],
  graphics: ['113103', 'Clean Graphics Option']
};

/** What an object says was done to it: the profile, pixels where somebody looked at them, then each option. */
export function methodCodes(rule: LeavingRule, pixelsCleaned: boolean): Code[] {
  const chosen = optionsOf(rule);
  return [
    ['113100', 'Basic Application Confidentiality Profile'],
    ...(pixelsCleaned ? [['113101', 'Clean Pixel Data Option'] as const] : []),
    ...[...chosen].map((option) => optionCodes[option]).sort(([a], [b]) => a.localeCompare(b))
  ];
}

export const temporalWord: Readonly<Record<LeavingRule['dates'], string>> = {
  removed: 'REMOVED',
  moved: 'MODIFIED',
  kept: 'UNMODIFIED'
};

/** A rule told in one line a matter, for whoever chooses between rules. */
export function ruleWords(rule: LeavingRule): string[] {
  const kept = [
    rule.characteristics && 'sex, age, size, species',
    rule.device && 'the device',
    rule.institution && 'the clinic',
    rule.uids === 'kept' && 'the UIDs'
  ].filter((each) => each !== false);
  const cleaned = [
    rule.words === 'cleaned' && 'descriptions',
    rule.graphics === 'cleaned' && (privateLeaves(rule) ? 'drawings, as they are kept here too' : 'drawings'),
    rule.structured === 'cleaned' && 'readings'
  ].filter((each) => each !== false);
  return [
    {
      removed: 'Dates are taken out.',
      moved:
        rule.times === 'noon'
          ? 'Dates are moved by the patient’s own days, times are noon.'
          : 'Dates and times are moved together by the patient’s own days.',
      kept: 'Dates stay as they are.'
    }[rule.dates],
    kept.length > 0
      ? `Kept: ${kept.join(', ')}.`
      : 'Nothing about the person, the device or the clinic is kept.',
    cleaned.length > 0
      ? `Kept without names: ${cleaned.join(', ')}.`
      : 'No words, drawings or readings go along.'
  ];
}

import { z } from 'zod';

const text = z.string().max(300).default('');

/** What a file says of itself: whose it is, which study and series it belongs to, and what it shows. Nothing of it is believed. */
export const saysSchema = z.object({
  person: z.object({
    /** As DICOM writes names: up to three groups (letters, ideograms, sounds) parted by "=". */
    name: text,
    otherNames: z.array(z.string().max(300)).max(20).default([]),
    id: text,
    issuer: text,
    /** YYYY-MM-DD; empty where it says none or no such day. */
    birthDate: text,
    sex: text,
    species: text,
    breed: text,
    owner: text
  }),
  study: z.object({ uid: text, date: text, description: text, from: text }),
  series: z.object({
    uid: text,
    number: z.number().nullable().default(null),
    description: text,
    modality: text
  }),
  instance: z.object({
    number: z.number().nullable().default(null),
    /** Along the normal of its plane, mm: slices lie in this order. */
    alongMm: z.number().nullable().default(null),
    /** Of that plane, of length 1, in the patient's axes. */
    normal: z.tuple([z.number(), z.number(), z.number()]).nullable().default(null)
  }),
  shows: z.object({
    bodyPart: text,
    regionCode: text,
    /** Codes of teeth and other structures. */
    structures: z.array(z.string().max(64)).max(64).default([]),
    laterality: text,
    view: text,
    protocol: text
  })
});
export type Says = z.infer<typeof saysSchema>;

export const nothingSaid: Says = saysSchema.parse({
  person: {},
  study: {},
  series: {},
  instance: {},
  shows: {}
});

/** A DICOM name as people read it: each group's parts in the order given name, family name. */
export function nameAsRead(name: string): string {
  const groups = name.split('=').map((group) => {
    const [family = '', given = '', middle = ''] = group.split('^').map((part) => part.trim());
    // Ideograms and sounds are written family name first.
    const parts = /^[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}\s]*$/u.test(
      group.replaceAll('^', '')
    )
      ? [family, given, middle]
      : [given, middle, family];
    return parts.filter(Boolean).join(' ');
  });
  const [first, ...others] = groups.filter(Boolean);
  return others.length > 0 ? `${first} (${others.join(', ')})` : (first ?? '');
}

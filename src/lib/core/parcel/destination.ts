import { z } from 'zod';
import { filmSizeNames, mediums } from '../print/film';
import { type Packing, packing, plainPacking } from './packing';
import type { Versioned } from '../versioned';

/** By which language a destination is reached. */
export const destinationKinds = ['dicomweb', 'dimse', 'folder', 'mail', 'claims', 'film'] as const;
export type DestinationKind = (typeof destinationKinds)[number];

export const destinationWords: Readonly<Record<DestinationKind, string>> = {
  dicomweb: 'DICOMweb archive',
  dimse: 'DICOM archive (DIMSE)',
  folder: 'Shared folder',
  mail: 'Mail',
  claims: 'Claims office',
  film: 'Film printer (DICOM)'
};

const title = z
  .string()
  .trim()
  .regex(/^[A-Za-z0-9_ .-]{1,16}$/, 'A title has 1 to 16 letters, digits, dots and lines.');

/** An address in the web, without a stroke at its end. @param what it is of, in words */
export const webAddress = (what: string) =>
  z
    .url({
      protocol: /^https?$/,
      error: `Enter the address of ${what}, beginning with http:// or https://.`
    })
    .max(500)
    .transform((url) => url.replace(/\/+$/, ''));
/** Sent as a bearer token; it never leaves by any other way. */
const token = z.string().max(2_000).default('');

/** Where it is, by kind. */
export const addressSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('dicomweb'),
    url: webAddress('the archive'),
    token
  }),
  z.strictObject({
    kind: z.literal('dimse'),
    host: z.string().trim().min(1, 'Enter the archive’s host.').max(200),
    port: z.number().int().min(1).max(65_535),
    called: title,
    calling: title
  }),
  z.strictObject({
    kind: z.literal('folder'),
    folder: z.string().trim().min(1, 'Enter the folder.').max(500)
  }),
  z.strictObject({
    kind: z.literal('mail'),
    to: z.email('Enter a mail address.').max(200)
  }),
  z.strictObject({
    kind: z.literal('claims'),
    url: webAddress('the claims office'),
    token
  }),
  z.strictObject({
    kind: z.literal('film'),
    host: z.string().trim().min(1, 'Enter the printer’s host.').max(200),
    port: z.number().int().min(1).max(65_535),
    called: title,
    calling: title,
    /** What it has in its trays. */
    sizes: z.array(z.enum(filmSizeNames)).min(1, 'Choose what sizes it has.').max(filmSizeNames.length),
    medium: z.enum(mediums),
    /** Whether it prints colour; another one gets grey. */
    colour: z.boolean()
  })
]);
export type Address = z.infer<typeof addressSchema>;

const settings = z.strictObject({
  address: addressSchema,
  identity: z.enum(['identified', 'deidentified']),
  /** The de-identification rule; the clinic's first where none is named. */
  ruleId: z.uuid().nullable(),
  packing: packing.schema as z.ZodType<Packing>,
  /** Who wraps a picture that came without attributes: we, or a DICOMweb archive that can. */
  wraps: z.enum(['here', 'there']),
  /** What goes along in words, for a patient that was sent there before and for one that was not. */
  words: z.strictObject({ fresh: z.string().max(4_000), known: z.string().max(4_000) }),
  /** Sent there by itself when a visit is closed. */
  byItself: z.boolean(),
  /** Whether a visit closes by itself once all of it has arrived there. */
  closes: z.boolean(),
  /** Mail addresses that are told once all of a parcel is there; no name of a patient stands in that. */
  tell: z.array(z.email('Enter mail addresses, with commas between.').max(200)).max(10)
});
export type DestinationSettings = z.infer<typeof settings>;
export const destinationSettings: Versioned<DestinationSettings> = {
  version: 3,
  schema: settings as z.ZodType<DestinationSettings>,
  upcasters: {
    1: (body) => {
      // Nobody was told by what stood there.
      const { told: _, ...rest } = body as { told?: unknown };
      return { ...rest, tell: [] };
    },
    2: (body) => {
      const { packing: before, ...rest } = body as { packing: object };
      return { ...rest, wraps: 'here', packing: { ...before, papers: false } };
    }
  }
};

/** An archive gets DICOM objects and nothing else. */
export const isArchive = ({ kind }: { kind: DestinationKind }): boolean =>
  kind === 'dicomweb' || kind === 'dimse';

/** Films are laid out first: a film printer takes nothing else. */
export const isFilmPrinter = ({ kind }: { kind: DestinationKind }): boolean => kind === 'film';

/** Where papers go. */
export const carriesPapers = ({ kind }: { kind: DestinationKind }): boolean =>
  kind === 'mail' || kind === 'folder';

/** Where each picture goes by itself; elsewhere a parcel goes as a whole. */
export const takesEach = (of: { kind: DestinationKind }): boolean => isArchive(of) || of.kind === 'claims';

/** A claims office is told of each picture by a person, and has to know whose it is: it is never sent anything by itself. */
export const wantsClaims = ({ kind }: { kind: DestinationKind }): boolean => kind === 'claims';

export const plainDestination = (address: Address): DestinationSettings => ({
  address,
  identity: 'identified',
  ruleId: null,
  packing: plainPacking,
  wraps: 'here',
  words: { fresh: '', known: '' },
  byItself: false,
  closes: false,
  tell: []
});

/** Where a destination is, in a line; no token in it. */
export function addressWords(address: Address): string {
  switch (address.kind) {
    case 'dicomweb':
    case 'claims':
      return address.url;
    case 'dimse':
    case 'film':
      return `${address.called} at ${address.host}:${address.port}`;
    case 'folder':
      return address.folder;
    case 'mail':
      return address.to;
  }
}

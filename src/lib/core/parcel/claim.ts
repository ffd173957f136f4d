import { z } from 'zod';
import { type PictureView, placesOf } from '../picture/pictureView';

/** What a claims office is told a picture is. */
export const claimKinds = {
  intraoral: 'X-ray of teeth',
  wide: 'Panoramic or skull x-ray',
  body: 'X-ray of the body',
  photograph: 'Photograph',
  ultrasound: 'Ultrasound',
  cornea: 'Corneal topography',
  other: 'Other picture'
} as const;
export type ClaimKind = keyof typeof claimKinds;
const kinds = Object.keys(claimKinds) as [ClaimKind, ...ClaimKind[]];

export const claimSchema = z.strictObject({
  kind: z.enum(kinds),
  /** The day it was taken. */
  taken: z.iso.date('Enter the day it was taken.'),
  /** On which side of the picture, as it is seen, the patient's left is. */
  leftIsAt: z.enum(['left', 'right']),
  remark: z.string().trim().max(400)
});
export type Claim = z.infer<typeof claimSchema>;

/**
 * What may be told of a picture, for a person to see and change. As pictures are hung the patient is faced, so that their
 * left is on the right. @param day of the clinic on which it was taken
 */
export function proposedClaim(view: PictureView, day: string): Claim {
  const kindsOfPlaces = new Set(placesOf(view).map(({ kind }) => kind));
  const radiograph: ClaimKind =
    kindsOfPlaces.has('tooth') || kindsOfPlaces.has('animal tooth')
      ? 'intraoral'
      : kindsOfPlaces.has('wide view')
        ? 'wide'
        : 'body';
  const kind = (
    {
      radiograph,
      photograph: 'photograph',
      ultrasound: 'ultrasound',
      rings: 'cornea',
      other: 'other'
    } as const
  )[view.kind];
  return { kind, taken: day, leftIsAt: 'right', remark: '' };
}

/** Who a claim is about. */
export interface ClaimSubject {
  number: string;
  family: string;
  given: string;
  /** YYYY-MM-DD; null where it is not known. */
  born: string | null;
}

export interface ClaimPicture {
  /** The delivery's own number: the same however often it is sent. */
  id: string;
  claim: Claim;
  subject: ClaimSubject;
  clinic: string;
  /** What it is called, and its places in the body. */
  title: string;
  place: string;
  /** An instant, ISO. */
  sentAt: string;
  contentType: string;
  bytes: Uint8Array;
}

/** By this a claims office tells whether it has a picture already. */
export const claimIdentifier = (id: string) => ({ system: 'urn:ietf:rfc:3986', value: `urn:uuid:${id}` });
const kindSystem = 'urn:yonder:claim-kind';
const leftUrl = 'urn:yonder:patient-left-is-at';
/** An identifier that whoever takes an order gives it (HL7 v2 table 0203). */
const fillerCode = 'FILL';

/** A picture for a claim as a DocumentReference (HL7 FHIR R4, v4.0.1), the picture in it. */
export function claimDocument(
  of: ClaimPicture,
  base64: (bytes: Uint8Array) => string
): Record<string, unknown> {
  const { claim, subject } = of;
  return {
    resourceType: 'DocumentReference',
    status: 'current',
    identifier: [claimIdentifier(of.id)],
    contained: [
      {
        resourceType: 'Patient',
        id: 'patient',
        identifier: [{ value: subject.number }],
        name: [{ family: subject.family, given: subject.given.split(' ').filter(Boolean) }],
        ...(subject.born ? { birthDate: subject.born } : {})
      }
    ],
    type: { coding: [{ system: kindSystem, code: claim.kind, display: claimKinds[claim.kind] }] },
    subject: { reference: '#patient' },
    date: of.sentAt,
    author: [{ display: of.clinic }],
    ...(claim.remark ? { description: claim.remark } : {}),
    extension: [{ url: leftUrl, valueCode: claim.leftIsAt }],
    content: [
      {
        attachment: {
          contentType: of.contentType,
          data: base64(of.bytes),
          title: [of.title, of.place].filter(Boolean).join(', '),
          creation: claim.taken
        }
      }
    ]
  };
}

const answered = z.looseObject({
  resourceType: z.literal('DocumentReference'),
  identifier: z
    .array(
      z.looseObject({
        value: z.string().optional(),
        type: z
          .looseObject({ coding: z.array(z.looseObject({ code: z.string().optional() })).optional() })
          .optional()
      })
    )
    .optional()
});
const bundle = z.looseObject({
  resourceType: z.literal('Bundle'),
  entry: z.array(z.looseObject({ resource: z.unknown() })).optional()
});

/** The tracking number that an office has given: of one document, or the first of a bundle; null where none stands there. */
export function trackingIn(answer: unknown): string | null {
  const found = bundle.safeParse(answer);
  if (found.success) {
    for (const { resource } of found.data.entry ?? []) {
      const tracking = trackingIn(resource);
      if (tracking) return tracking;
    }
    return null;
  }
  const document = answered.safeParse(answer);
  if (!document.success) return null;
  const own = document.data.identifier?.find(({ type }) =>
    type?.coding?.some(({ code }) => code === fillerCode)
  );
  return own?.value?.trim().slice(0, 100) || null;
}

const outcome = z.looseObject({
  resourceType: z.literal('OperationOutcome'),
  issue: z.array(
    z.looseObject({
      diagnostics: z.string().optional(),
      details: z.looseObject({ text: z.string().optional() }).optional()
    })
  )
});

/** Why an office refused, in its own words; empty where it gives none. */
export function refusalIn(answer: unknown): string {
  const read = outcome.safeParse(answer);
  if (!read.success) return '';
  return read.data.issue
    .map(({ diagnostics, details }) => details?.text ?? diagnostics ?? '')
    .filter(Boolean)
    .join(' ')
    .slice(0, 400);
}

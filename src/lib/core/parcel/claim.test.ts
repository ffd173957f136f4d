import { describe, expect, it } from 'vitest';
import type { Place } from '../anatomy/place';
import type { PictureView } from '../picture/pictureView';
import { claimDocument, claimSchema, proposedClaim, refusalIn, trackingIn } from './claim';

const picture = (kind: PictureView['kind'], places: Place[]) =>
  ({
    kind,
    placed: true,
    links: places,
    slot: null,
    layers: {},
    fileName: 'a.png'
  }) as unknown as PictureView;

describe('what is proposed for a claim', () => {
  it.each([
    ['radiograph', [{ kind: 'tooth', tooth: 36 }], 'intraoral'],
    ['radiograph', [{ kind: 'wide view', view: 'panoramic' }], 'wide'],
    ['radiograph', [], 'body'],
    ['photograph', [{ kind: 'tooth', tooth: 36 }], 'photograph'],
    ['rings', [], 'cornea'],
    ['ultrasound', [], 'ultrasound'],
    ['other', [], 'other']
  ] as const)('of a %s at %j is %s', (kind, places, wanted) => {
    const claim = proposedClaim(picture(kind, places as unknown as Place[]), '2026-03-01');
    expect(claim).toEqual({ kind: wanted, taken: '2026-03-01', leftIsAt: 'right', remark: '' });
    expect(claimSchema.safeParse(claim).success).toBe(true);
  });
});

describe('an answer of a claims office', () => {
  const document = {
    resourceType: 'DocumentReference',
    identifier: [
      { system: 'urn:ietf:rfc:3986', value: 'urn:uuid:1' },
      { type: { coding: [{ code: 'FILL' }] }, value: ' AT-1 ' }
    ]
  };
  it.each([
    [document, 'AT-1'],
    [{ resourceType: 'Bundle', entry: [{ resource: document }] }, 'AT-1'],
    [{ resourceType: 'Bundle', entry: [] }, null],
    [{ resourceType: 'Bundle' }, null],
    [{ ...document, identifier: [document.identifier[0]] }, null],
    [{ resourceType: 'Patient' }, null],
    ['<html>', null],
    [null, null]
  ])('%j has the tracking number %s', (answer, tracking) => expect(trackingIn(answer)).toBe(tracking));

  it('tells why in its own words, and never at more length than can be read', () => {
    const issue = [{ diagnostics: 'No name.' }, { details: { text: 'No day.' }, diagnostics: 'x' }];
    expect(refusalIn({ resourceType: 'OperationOutcome', issue })).toBe('No name. No day.');
    const long = [{ diagnostics: 'y'.repeat(5_000) }];
    expect(refusalIn({ resourceType: 'OperationOutcome', issue: long })).toHaveLength(400);
    expect(refusalIn({ message: 'no' })).toBe('');
  });
});

it('a document holds the picture, whose it is, and nothing that nobody told', () => {
  const made = claimDocument(
    {
      id: '0198-1',
      claim: { kind: 'intraoral', taken: '2026-03-01', leftIsAt: 'left', remark: '' },
      subject: { number: 'QS-1', family: 'Kestrelle', given: 'Tobin Ray', born: null },
      clinic: 'Quill Sound',
      title: 'Right molars',
      place: '46, 47',
      sentAt: '2026-03-02T10:00:00.000Z',
      contentType: 'image/jpeg',
      bytes: new Uint8Array([1, 2, 3])
    },
    (bytes) => Buffer.from(bytes).toString('base64')
  );
  expect(made).toMatchObject({
    resourceType: 'DocumentReference',
    identifier: [{ value: 'urn:uuid:0198-1' }],
    contained: [
      { name: [{ family: 'Kestrelle', given: ['Tobin', 'Ray'] }], identifier: [{ value: 'QS-1' }] }
    ],
    content: [{ attachment: { data: 'AQID', creation: '2026-03-01', title: 'Right molars, 46, 47' } }],
    extension: [{ valueCode: 'left' }]
  });
  expect(made).not.toHaveProperty('description');
  expect((made.contained as object[])[0]).not.toHaveProperty('birthDate');
});

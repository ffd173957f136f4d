import { describe, expect, it } from 'vitest';
import { readVersioned } from '../versioned';
import { addressSchema, addressWords, destinationSettings, plainDestination } from './destination';
import { type Named, asFileName, fileNamer } from './fileNames';
import { packageBundle } from './packageBundle';
import { packagePage } from './packagePage';
import type { PageOf } from './packageParts';
import { type Counts, type ParcelView, markOf, noCounts, stateWords, wantsPerson } from './road';
import { shownHeaders, wireText } from './wire';

const named = (more: Partial<Named> = {}): Named => ({
  who: 'Marrowby Isolde',
  number: 'QS-1004',
  date: '2026-03-01',
  what: 'Bitewing right',
  place: '16, 17',
  kind: 'radiograph',
  ...more
});

describe('names of files', () => {
  it('follow a pattern, each once, and leave what nobody knows as it is written', () => {
    const name = fileNamer('{who} {date} {nonsense}', 2);
    expect([named(), named()].map(name)).toEqual([
      'Marrowby Isolde 2026-03-01 {nonsense}',
      'Marrowby Isolde 2026-03-01 {nonsense} (2)'
    ]);
  });
  it('count with as many digits as are needed', () => {
    const name = fileNamer('{n}', 1200);
    expect([name(named()), name(named())]).toEqual(['0001', '0002']);
  });
  it('can be written by every system, and never lead out of a folder', () => {
    expect(asFileName('../../etc/pass:wd\u0000')).toBe('etc pass wd');
    expect(asFileName('con')).toBe('con_');
    expect(asFileName(' ..hidden. ')).toBe('hidden');
    expect(asFileName('x'.repeat(400))).toHaveLength(100);
    const name = fileNamer('{what}', 3);
    expect([named({ what: '///' }), named({ what: 'A' }), named({ what: 'a' })].map(name)).toEqual([
      'picture 01',
      'A',
      'a (2)'
    ]);
  });
});

describe('a destination', () => {
  it('is told without its token, and its address is brought into one form', () => {
    const address = addressSchema.parse({
      kind: 'dicomweb',
      url: 'https://a.example/dicomweb//',
      token: 'secret'
    });
    expect(addressWords(address)).toBe('https://a.example/dicomweb');
    expect(destinationSettings.schema.safeParse(plainDestination(address)).success).toBe(true);
  });
  it('that was kept before anybody was told of it tells nobody', () => {
    const { tell, wraps, ...before } = plainDestination({ kind: 'mail', to: 'a@b.example' });
    expect([tell, wraps]).toEqual([[], 'here']);
    const { papers, ...packed } = before.packing;
    expect(papers).toBe(false);
    const old_ = { ...before, packing: packed };
    for (const old of [old_, { ...old_, told: ['0198c0de-0000-7000-8000-000000000001'] }])
      expect(readVersioned('A destination', destinationSettings, 1, old)).toEqual({
        ...before,
        tell: [],
        wraps: 'here'
      });
    const wrong = { ...before, tell: ['nobody'] };
    expect(destinationSettings.schema.safeParse(wrong).success).toBe(false);
  });
  it.each([
    { kind: 'dicomweb', url: 'file:///etc' },
    { kind: 'dimse', host: 'a', port: 0, called: 'A', calling: 'B' },
    { kind: 'dimse', host: 'a', port: 104, called: 'a title that is too long', calling: 'B' },
    { kind: 'mail', to: 'nobody' },
    { kind: 'folder', folder: ' ' }
  ])('is refused as $kind where it can be none', (address) =>
    expect(addressSchema.safeParse(address).success).toBe(false)
  );
});

describe('a parcel on its road', () => {
  const at = (counts: Partial<Counts>, more: Partial<ParcelView> = {}) =>
    ({
      state: 'open',
      counts: { ...noCounts, ...counts },
      destination: { destinationId: 'd', name: 'Archive', kind: 'dicomweb', dropped: false },
      fetchedAt: null,
      pictures: 3,
      packed: 0,
      attempts: 0,
      ...more
    }) as ParcelView;
  it.each<[string, ParcelView, string, string, boolean]>([
    [
      'is looked through',
      at({ packing: 3 }, { state: 'checking', packed: 1 }),
      'packed',
      'looked through 1 of 3',
      false
    ],
    ['was stopped', at({ failed: 3 }, { state: 'stopped' }), 'packed', 'stopped', true],
    ['waits', at({ waiting: 3 }), 'waiting', 'waiting', false],
    ['waits after a try', at({ waiting: 3 }, { attempts: 2 }), 'waiting', 'waiting to be tried again', false],
    ['is held', at({ held: 3 }, { state: 'held' }), 'waiting', 'held', false],
    ['goes', at({ waiting: 1, sending: 1, delivered: 1 }), 'on its way', '1 of 3 there', false],
    ['failed in part', at({ delivered: 2, failed: 1 }), 'on its way', '1 of 3 failed', true],
    ['is there', at({ delivered: 3, readBack: 2 }), 'there', 'there', false],
    ['was read back', at({ delivered: 3, readBack: 3 }), 'read back', 'there, read back', false],
    ['was withdrawn', at({ withdrawn: 3 }, { state: 'withdrawn' }), 'waiting', 'withdrawn', false],
    ['can be fetched', at({}, { destination: null }), 'packed', 'ready to be fetched', false],
    ['is being fetched', at({}, { destination: null, packed: 2 }), 'packed', '2 of 3 fetched', false],
    ['was fetched', at({}, { destination: null, fetchedAt: '2026-01-01' }), 'there', 'fetched', false]
  ])('%s', (_, view, mark, words, person) =>
    expect([markOf(view), stateWords(view), wantsPerson(view)]).toEqual([mark, words, person])
  );
});

describe('what was said on the wire', () => {
  it('is text that can be sent on, without what proves who we are', () => {
    const headers = shownHeaders([
      ['Authorization', 'Bearer secret'],
      ['accept', 'application/dicom+json']
    ]);
    const text = wireText({
      request: 'POST https://a.example/studies/1',
      headers,
      parts: [{ type: 'application/dicom', bytes: 4_420_000 }],
      answer: '409 Conflict',
      answerHeaders: { 'content-type': 'text/html' },
      body: '<html>'
    });
    expect(text).not.toContain('secret');
    expect(text).toContain('part 1: application/dicom, 4,420,000 bytes');
    expect(text).toMatch(/409 Conflict\ncontent-type: text\/html\n\n<html>$/);
  });
});

describe('the page of a package', () => {
  const page = (more: Partial<PageOf> = {}): PageOf => ({
    ...named(),
    frames: 1,
    frameMs: null,
    width: 10,
    height: 10,
    files: ['pictures/01 Bitewing right.jpg'],
    uids: {
      studyUid: '2.25.1',
      seriesUid: '2.25.2',
      instanceUid: '2.25.3',
      sopClass: '1.2.3',
      modality: 'IO'
    },
    ...more
  });
  const told = (pages: PageOf[]) =>
    packagePage({
      title: 'Isolde <script>alert(1)</script>',
      who: [{ id: 'QS-1', name: { family: 'M', given: 'I' }, born: '1970-01-02', sex: 'F' }],
      deidentified: false,
      clinic: 'Quill & Sound',
      words: '</footer>',
      pages
    });
  it('runs nothing that stands in words or names, and asks for nothing from elsewhere', () => {
    const html = told([page({ what: '</script><img src=x onerror=alert(1)>' })]);
    expect(html.match(/<script>/g)).toHaveLength(1);
    expect(html).not.toMatch(/onerror=alert\(1\)>/);
    expect(html).not.toMatch(/https?:\/\//);
    expect(html).toContain("default-src 'none'");
  });
  it('names its pictures so that a browser finds them whatever they are called', () => {
    expect(told([page({ files: ['pictures/50 % & more #1.jpg'] })])).toContain(
      'pictures/50%20%25%20%5Cu0026'.slice(0, 18)
    );
  });
  it('is told to other systems as FHIR: who, which study, which pictures', () => {
    const bundle = packageBundle(
      [{ id: 'YT-7', name: null, born: null, sex: '' }],
      [
        page(),
        page({
          uids: {
            studyUid: '2.25.1',
            seriesUid: '2.25.2',
            instanceUid: '2.25.4',
            sopClass: '1.2.3',
            modality: 'IO'
          }
        })
      ]
    ) as { entry: { resource: Record<string, unknown> }[] };
    expect(bundle.entry.map(({ resource }) => resource.resourceType)).toEqual(['Patient', 'ImagingStudy']);
    expect(bundle.entry[0].resource).not.toHaveProperty('name');
    expect(JSON.stringify(bundle.entry[1])).toContain('2.25.4');
  });
});

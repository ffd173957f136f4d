import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import dicomParser from 'dicom-parser';
import { afterAll, describe, expect, it } from 'vitest';
import { inverted, windowLook } from '../../raster/look/look';
import type { LayerName } from '../../picture/layers/all';
import { layerKindOf } from '../../picture/layers/all';
import type { Dataset } from '../dataset';
import { firstText } from '../dataset';
import { writeDicomFile } from '../write';
import { bytes, everyKind, lined, look, lossy, unplaced, wrist } from './everyKind.test-data';
import { exampleFacts } from './exampleFacts.test-data';
import { type Leaving, deidentified } from '../../deidentify/deidentify';
import { type LeavingRule, usualRule } from '../../deidentify/rule';
import { datasetForPicture } from './forPicture';
import { keyedCode } from '../../anatomy/code';
import { guides } from '../../measurement/guides/all';
import { guideSetsOf } from '../../picture/guideSets';
import type { PictureView } from '../../picture/pictureView';
import { guideInReport } from './guideInReport';
import { measurementReportDataset } from './measurementReport';
import type { ObjectFacts } from './objectFacts';
import { objectKindOf } from './objectKind';
import { type PictureLayers, noLayers } from '../../picture/pictureLayers';
import { turned, upright } from '../../raster/orientation';
import { presentationStateDataset } from './presentationState';

const leavingBy = (rule: Partial<LeavingRule>): Leaving => ({
  rule: { ...usualRule, ...rule },
  pseudonym: {
    name: 'QUIET-7',
    dateShiftDays: -40,
    clockShiftSeconds: -600,
    replaceUid: (uid: string) => `2.25.9${uid.length}${uid.at(-1)}`
  },
  terms: [],
  pixelsCleaned: false
});
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-objects-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

function errorsOf(set: Dataset, name: string): string[] {
  const target = path.join(folder, `${name.replace(/\W+/g, '-')}.dcm`);
  fs.writeFileSync(target, writeDicomFile(set));
  const { stderr } = spawnSync('dciodvfy', [target], { encoding: 'utf8' });
  expect(stderr.length).toBeGreaterThan(0);
  expect(spawnSync('dcmdump', ['-q', target]).status).toBe(0);
  return stderr.split('\n').filter((line) => line.startsWith('Error'));
}

describe('every object', () => {
  it.each(Object.entries(everyKind))('%s has no error for independent toolkits', (name, changes) => {
    expect(errorsOf(datasetForPicture(exampleFacts(changes)), name)).toEqual([]);
  });
  it.each(Object.entries(everyKind))('%s has none either once it is de-identified', (name, changes) => {
    const of = datasetForPicture(exampleFacts(changes));
    for (const dates of ['moved', 'removed', 'kept'] as const)
      expect(errorsOf(deidentified(of, leavingBy({ dates })), `${name} de-identified`), dates).toEqual([]);
  });
});

describe('what an object is', () => {
  const of = (name: keyof typeof everyKind) => objectKindOf(exampleFacts(everyKind[name]));
  it('follows from what made it and where it was taken', () => {
    expect(of('a bitewing')).toBe('intra-oral x-ray');
    expect(of('an animal’s tooth')).toBe('intra-oral x-ray');
    for (const name of [
      'a wrist from the front',
      'an animal’s hips',
      'a panoramic view',
      'a radiograph of nobody knows what'
    ])
      expect(of(name), name).toBe('x-ray');
    expect(of('a photograph of a face')).toBe('photograph');
    expect(of('an ultrasound loop, scaled')).toBe('ultrasound loop');
    expect(of('a ring picture')).toBe('eye picture');
    expect(of('frames of sixteen bits')).toBe('secondary capture frames');
    expect(of('a signed picture')).toBe('secondary capture');
  });
  it('is no x-ray object where nobody knows which way the body lies: that class has to say', () => {
    expect(of('a radiograph that lies nobody knows how')).toBe('secondary capture');
  });
  it('is never intra-oral for a wrist, whichever slot it was taken in', () => {
    expect(exampleFacts().slot!.projection).toBe('bitewing');
    expect(objectKindOf(exampleFacts({ places: wrist.places }))).toBe('x-ray');
  });
});

describe('what an object says', () => {
  const set = (changes: Partial<ObjectFacts>) =>
    dicomParser.parseDicom(writeDicomFile(datasetForPicture(exampleFacts(changes))));
  const spacing = (changes: Partial<ObjectFacts>, tag: string) => {
    const read = set(changes);
    return read.elements[tag] ? [read.floatString(tag, 0), read.floatString(tag, 1)] : null;
  };
  it('is dark for dense where it is seen inverted, and the other way round else', () => {
    expect(set({ look: inverted(look) }).string('x00280004')).toBe('MONOCHROME1');
    expect(set({ look: inverted(look) }).string('x20500020')).toBe('INVERSE');
    expect(set({}).string('x00280004')).toBe('MONOCHROME2');
  });
  it('always names a spacing that is known, at the detector or in the anatomy', () => {
    expect(spacing({}, 'x00181164')).toEqual([0.02, 0.02]);
    expect(spacing({}, 'x00280030')).toBeNull();
    for (const name of [
      'a bitewing scaled by a line',
      'a wrist from the side, scaled',
      'a picture with pixels that are not square',
      'a scaled photograph'
    ]) {
      expect(spacing(everyKind[name], 'x00280030'), name).toEqual([0.15, 0.1]);
      expect(set(everyKind[name]).string('x00280a02'), name).toBe('FIDUCIAL');
    }
    expect(spacing({ ...unplaced, scale: exampleFacts().scale }, 'x00280030')).toEqual([0.02, 0.02]);
    const region = set(everyKind['an ultrasound loop, scaled']).elements.x00186011.items![0].dataSet!;
    expect([region.double('x0018602c'), region.double('x0018602e')]).toEqual([0.01, 0.015]);
  });
  it('names the places shown, their side and the view', () => {
    const bitewing = set({});
    expect(bitewing.elements.x00082228.items!.map((each) => each.dataSet!.string('x00080100'))).toEqual([
      '16',
      '17',
      '46',
      '47'
    ]);
    expect(bitewing.string('x00200062')).toBe('R');
    const side = set(everyKind['a wrist from the side, scaled']);
    expect(side.elements.x00082218.items![0].dataSet!.string('x00080104')).toBe('Wrist joint');
    expect([side.string('x00200062'), side.string('x00185101'), side.string('x00080060')]).toEqual([
      'L',
      'LL',
      'DX'
    ]);
    expect(set(wrist).string('x00185101')).toBe('PA');
  });
  it('keeps a loss of the past in mind', () => {
    expect(set({ lossy }).string('x00282110')).toBe('01');
    expect(set({ lossy }).floatString('x00282112')).toBeCloseTo(11.4, 6);
    expect(set({}).string('x00282110')).toBe('00');
  });
  it('never says that there is no lettering unless that is known', () => {
    expect(set({ ...unplaced, burnedIn: null }).string('x00280301')).toBeUndefined();
    expect(set({ burnedIn: null }).string('x00280301')).toBe('YES');
    expect(set({ burnedIn: false }).string('x00280301')).toBe('NO');
  });
  it('gives signed samples their sign back', () => {
    const read = set(everyKind['a signed picture']);
    expect(read.uint16('x00280103')).toBe(1);
    const { dataOffset, length } = read.elements.x7fe00010;
    const samples = new Int16Array(read.byteArray.slice(dataOffset, dataOffset + length).buffer);
    expect([...samples]).toEqual(Array.from({ length: 24 }, (_, i) => i * 170 - 2048));
  });
  it('holds all frames, one after the other', () => {
    const read = set(everyKind['an ultrasound loop, scaled']);
    expect([read.intString('x00280008'), read.floatString('x00181063')]).toEqual([3, 41.7]);
    const { dataOffset } = read.elements.x7fe00010;
    expect([...read.byteArray.slice(dataOffset, dataOffset + 72)]).toEqual([...bytes(72)]);
  });
  it('names an animal’s species and owner', () => {
    const read = set(everyKind['an animal’s hips']);
    expect([read.string('x00102201'), read.string('x00102297'), read.string('x00102298')]).toEqual([
      'dog, sheepdog',
      'Osmund Pike',
      'OWNER'
    ]);
  });
});

describe('what people made of a picture', () => {
  const at = (x: number, y: number) => ({ x, y, uncertaintyPx: 0.5 });
  const items = [
    { id: 'one', kind: 'length' as LayerName, body: { ends: [at(1, 1), at(5, 1)] }, by: '' },
    { id: 'two', kind: 'angle' as LayerName, body: { points: [at(1, 1), at(3, 1), at(3, 3)] }, by: '' }
  ];
  const facts = exampleFacts({ scale: lined });
  const sopClassUid = firstText(datasetForPicture(facts), 'SOPClassUID')!;
  const instance = { seriesUid: '2.25.77', number: 1, date: '20240302', time: '101112' };

  it('leaves as a presentation state without errors: window, turning, drawings with their words', () => {
    const state = presentationStateDataset({
      facts,
      sopClassUid,
      layers: {
        look: windowLook({ center: 9, width: 5 }, true),
        orientation: { quarterTurns: 1, mirrored: true },
        crop: null,
        scale: null,
        taken: null,
        about: null,
        grade: null,
        veils: null,
        items
      },
      state: { ...instance, instanceUid: '2.25.78', creator: 'Vael^Orsin' },
      notation: 'fdi'
    });
    expect(errorsOf(state, 'presentation state')).toEqual([]);
    const without = deidentified(state, leavingBy({ graphics: 'cleaned' }));
    expect(errorsOf(without, 'presentation state de-identified')).toEqual([]);
    const safe = deidentified(state, leavingBy({ graphics: 'cleaned', safePrivate: true }));
    expect(safe.some(({ tag }) => tag === '00080300')).toBe(true);
    expect(errorsOf(safe, 'presentation state with what is safe')).toEqual([]);
    expect(firstText(without, 'ContentCreatorName')).toBeUndefined();
    expect(without.some(({ tag }) => tag === '00700001')).toBe(true);
    const read = dicomParser.parseDicom(writeDicomFile(state));
    expect([read.uint16('x00700042'), read.string('x00700041'), read.string('x20500020')]).toEqual([
      270,
      'Y',
      'INVERSE'
    ]);
    const drawn = read.elements.x00700001.items!.map((each) => each.dataSet!);
    expect(drawn).toHaveLength(2);
    expect(drawn[0].elements.x00700008.items![0].dataSet!.string('x00700006')).toMatch(
      /^0\.4\d? \S+ 0\.\d+ mm$/
    );
    expect(drawn[1].elements.x00700008.items![0].dataSet!.string('x00700006')).toMatch(/^90 \S+ \d+/);
  });
  it('leaves of a colour picture as a state of colours, which says what they are', () => {
    const colour = exampleFacts(everyKind['a photograph of a face']);
    const state = presentationStateDataset({
      facts: colour,
      sopClassUid: firstText(datasetForPicture(colour), 'SOPClassUID')!,
      layers: { ...noLayers, look: windowLook({ center: 9, width: 5 }, true), items },
      state: { ...instance, instanceUid: '2.25.80', creator: 'Vael^Orsin' },
      notation: 'fdi'
    });
    expect(errorsOf(state, 'colour presentation state')).toEqual([]);
    const without = deidentified(state, leavingBy({ graphics: 'cleaned' }));
    expect(errorsOf(without, 'colour presentation state de-identified')).toEqual([]);
    for (const set of [state, without]) {
      const read = dicomParser.parseDicom(writeDicomFile(set));
      expect([read.string('x00080016'), read.string('x00282002')]).toEqual([
        '1.2.840.10008.5.1.4.1.1.11.2',
        'SRGB'
      ]);
      // A window means nothing there, nor does a table of greys.
      expect([read.elements.x00283110, read.elements.x20500020]).toEqual([undefined, undefined]);
    }
  });
  it('leaves with the part that is shown as its displayed area, turned or tilted', () => {
    const { width, height } = facts.pixels;
    const areaOf = (layers: Partial<PictureLayers>) => {
      const state = presentationStateDataset({
        facts,
        sopClassUid,
        layers: { ...noLayers, ...layers },
        state: { ...instance, instanceUid: '2.25.79', creator: 'Vael^Orsin' },
        notation: 'fdi'
      });
      expect(errorsOf(state, 'cropped presentation state')).toEqual([]);
      const area = dicomParser.parseDicom(writeDicomFile(state)).elements.x0070005a.items![0].dataSet!;
      return ['x00700052', 'x00700053'].map((tag) => [area.int32(tag, 0), area.int32(tag, 1)]);
    };
    expect(areaOf({})).toEqual([
      [1, 1],
      [width, height]
    ]);
    const crop = { window: { left: 1, top: 2, width: 3, height: 2 }, orientation: upright };
    expect(areaOf({ crop })).toEqual([
      [2, 3],
      [4, 4]
    ]);
    // Turned clockwise, what was at the bottom left is seen at the top left.
    expect(areaOf({ crop, orientation: turned(upright, 1) })).toEqual([
      [2, 4],
      [4, 3]
    ]);
    // A tilt is not told in a displayed area.
    expect(areaOf({ crop, orientation: { ...upright, tiltDeg: 9 } })).toEqual(areaOf({ crop }));
  });

  it('of every kind leaves without errors, words and names too, and what is hidden does not', () => {
    const points = (...all: [number, number][]) => ({ points: all.map(([x, y]) => at(x, y)) });
    const square = points([1, 1], [9, 1], [9, 9], [1, 9], [5, 0.2]);
    const bodies: [LayerName, unknown][] = [
      ['curve', square],
      ['to line', points([1, 1], [5, 5], [9, 5])],
      ['two lines', points([1, 1], [5, 1], [2, 3], [6, 5])],
      ['ratio', points([1, 1], [5, 1], [2, 3], [6, 5])],
      ['circle', square],
      ['ellipse', square],
      ['area', square],
      ['region', square],
      ['profile', points([1, 1], [5, 1])],
      ['arrow', points([1, 1], [5, 1])],
      ['text', { at: at(3, 3), words: 'Loose' }],
      ['label', { at: at(3, 3), place: { kind: 'tooth', tooth: 36 } }],
      [
        'freehand',
        {
          way: [
            { x: 1, y: 1 },
            { x: 4, y: 2 }
          ]
        }
      ],
      [
        'outline',
        {
          way: [
            { x: 1, y: 1 },
            { x: 4, y: 2 },
            { x: 2, y: 6 }
          ]
        }
      ]
    ];
    const all = bodies.map(([kind, body], i) => ({ id: `item ${i}`, kind, body, by: '' }));
    const note = (i: number, body: object) => ({ id: `item ${i}`, kind: 'note' as LayerName, body, by: '' });
    const state = presentationStateDataset({
      facts,
      sopClassUid,
      layers: {
        ...noLayers,
        items: [
          ...all,
          note(0, { name: 'Canal', hidden: false, repeatOf: null }),
          note(9, { name: '', hidden: true, repeatOf: null })
        ]
      },
      state: { ...instance, instanceUid: '2.25.78', creator: 'Vael^Orsin' },
      notation: 'fdi'
    });
    expect(errorsOf(state, 'presentation state')).toEqual([]);
    const drawn = dicomParser
      .parseDicom(writeDicomFile(state))
      .elements.x00700001.items!.map((each) => each.dataSet!);
    expect(drawn).toHaveLength(all.length - 1);
    const words = drawn.map((each) => each.elements.x00700008?.items![0].dataSet!.string('x00700006') ?? '');
    expect(words[0]).toMatch(/^Canal, /);
    expect(words).toEqual(expect.arrayContaining(['Loose', '36']));
    const measured = all.filter(({ kind }) => layerKindOf(kind).measure);
    const report = measurementReportDataset({
      facts,
      sopClassUid,
      readings: measured.map((item, i) => ({ item, scale: lined, trackingUid: `2.25.9${i}` })),
      report: { ...instance, instanceUid: '2.25.79', observer: 'Vael^Orsin' }
    });
    expect(errorsOf(report, 'report')).toEqual([]);
  });
  it('leaves as a report with a guide’s landmarks and what follows from them, each by a code of its own', () => {
    const wrist = guides.find(({ key }) => key === 'distal-radius')!;
    const points = Object.fromEntries(
      wrist.views[0].landmarks.map(({ key, onSchematic }) => [
        key,
        { x: 100 * onSchematic.x, y: 100 * onSchematic.y, uncertaintyPx: 0.5 }
      ])
    );
    const body = { set: 'one', guide: wrist.key, version: wrist.version, view: 'front', points };
    const picture = {
      pictureId: 'p',
      width: 100,
      height: 100,
      fileScale: null,
      firstOrientation: upright,
      layers: noLayers
    } as unknown as PictureView;
    const layers = { ...noLayers, items: [{ id: 'one', kind: 'guide' as const, body, by: '' }] };
    const [set] = guideSetsOf([{ picture, layers }]);
    const told = guideInReport(set, 'p', () => null)!;
    expect(told.landmarks).toHaveLength(wrist.views[0].landmarks.length);
    expect(told.results.map(({ key }) => key)).toContain('inclination');
    expect(told.results.map(({ key }) => key)).not.toContain('tilt');
    expect(guideInReport(set, 'another', () => null)).toBeNull();
    const report = measurementReportDataset({
      facts,
      sopClassUid,
      readings: [],
      guides: [{ ...told, trackingUid: '2.25.91' }],
      report: { ...instance, instanceUid: '2.25.79', observer: 'Vael^Orsin' }
    });
    expect(errorsOf(report, 'report of a guide')).toEqual([]);
    const target = path.join(folder, 'guide.dcm');
    fs.writeFileSync(target, writeDicomFile(report));
    const { stdout, status } = spawnSync('dsrdump', ['+Pl', target], { encoding: 'utf8' });
    expect(status).toBe(0);
    for (const { name } of [...told.landmarks, ...told.results]) expect(stdout).toContain(name);
    const codes = guides.flatMap((guide) => [
      ...guide.formulas.map(({ key }) => `${guide.key} ${key}`),
      ...guide.views.flatMap((view) => view.landmarks.map(({ key }) => `${guide.key} ${view.key} ${key}`))
    ]);
    expect(new Set(codes.map((key) => keyedCode(key, '').value)).size).toBe(new Set(codes).size);
  });
  it('tells what follows from landmarks on two pictures, with the points on each', () => {
    const chest = guides.find(({ key }) => key === 'chest-shape')!;
    const layersOf = (view: string) => {
      const points = Object.fromEntries(
        chest.views
          .find(({ key }) => key === view)!
          .landmarks.map(({ key, onSchematic: { x, y } }) => [
            key,
            { x: 400 * x, y: 400 * y, uncertaintyPx: 0.5 }
          ])
      );
      const body = { set: 'two', guide: chest.key, version: chest.version, view, points };
      return { ...noLayers, items: [{ id: 'two', kind: 'guide' as const, body, by: '' }] };
    };
    const views = ['side', 'above'].map((view) => ({
      picture: {
        pictureId: view,
        width: 400,
        height: 400,
        fileScale: lined,
        firstOrientation: upright,
        layers: noLayers
      } as unknown as PictureView,
      layers: layersOf(view)
    }));
    const [set] = guideSetsOf(views);
    const own = { seriesUid: facts.series.uid, sopClassUid, instanceUid: facts.instance.uid };
    const other = { ...own, seriesUid: '2.25.501', instanceUid: '2.25.502' };
    const told = guideInReport(set, 'side', (id) => (id === 'side' ? own : other))!;
    expect(told.results.map(({ key }) => key)).toEqual(['vertebral']);
    expect(told.across!.map(({ key, from }) => [key, from.map(({ points }) => points.length)])).toEqual([
      ['frontosagittal', [2, 2]]
    ]);
    // A picture that can't be pointed at makes it untold, never half told.
    expect(guideInReport(set, 'side', (id) => (id === 'side' ? own : null))!.across).toEqual([]);
    const report = measurementReportDataset({
      facts,
      sopClassUid,
      readings: [],
      guides: [{ ...told, trackingUid: '2.25.93' }],
      report: { ...instance, instanceUid: '2.25.80', observer: 'Vael^Orsin' }
    });
    expect(errorsOf(report, 'report of two pictures')).toEqual([]);
    const target = path.join(folder, 'two.dcm');
    fs.writeFileSync(target, writeDicomFile(report));
    const { stdout, status } = spawnSync('dsrdump', ['+Pl', target], { encoding: 'utf8' });
    expect(status).toBe(0);
    expect(stdout).toContain('Width over depth');
    expect(spawnSync('dcmdump', [target], { encoding: 'utf8' }).stdout).toContain('2.25.502');
  });
  it('leaves as a report without errors: values with their ±, points, and the picture they are of', () => {
    const report = measurementReportDataset({
      facts,
      sopClassUid,
      readings: items.map((item, i) => ({ item, scale: lined, trackingUid: `2.25.9${i}` })),
      report: { ...instance, instanceUid: '2.25.79', observer: 'Vael^Orsin' }
    });
    expect(errorsOf(report, 'report')).toEqual([]);
    const target = path.join(folder, 'report.dcm');
    fs.writeFileSync(target, writeDicomFile(report));
    const { stdout, status } = spawnSync('dsrdump', ['+Pl', target], { encoding: 'utf8' });
    expect(status).toBe(0);
    expect(stdout).toMatch(/Length.*"0\.4.*mm/);
    expect(stdout).toMatch(/Angle.*"90.*deg/);
  });
});

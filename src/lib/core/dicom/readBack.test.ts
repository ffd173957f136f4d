import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { type Leaving, deidentified } from '../deidentify/deidentify';
import { identityTerms } from '../deidentify/residual';
import { type LeavingRule, usualRule } from '../deidentify/rule';
import { dicomUid, uuidOfUid } from '../identity/uuid7';
import { type LayerName, layerKindOf, layerKinds } from '../picture/layers/all';
import { type PictureItem, type PictureLayers, noLayers } from '../picture/pictureLayers';
import { readingsOf } from '../picture/readings';
import { inserted, windowLook } from '../raster/look/look';
import { type Orientation, upright } from '../raster/orientation';
import type { Attributes } from './dataset';
import { dataset, inText } from './dataset';
import { exampleFacts } from './objects/exampleFacts.test-data';
import { measurementReportDataset } from './objects/measurementReport';
import { presentationStateClassUids, presentationStateDataset } from './objects/presentationState';
import { readDicom } from './read';
import { presentationRead, reportRead, sopClassOf } from './readBack';
import { writeDicomFile } from './write';

const at = (x: number, y: number) => ({ x, y, uncertaintyPx: 0.75 });
const round = (count: number) =>
  Array.from({ length: count }, (_, i) => at(50 + 10.3 * Math.cos(i), 50 + 8.1 * Math.sin(i)));
const bodies: Partial<Record<LayerName, unknown>> = {
  length: { ends: [at(0.125, 2), at(30, 40)] },
  angle: { points: [at(10, 0), at(0, 0), at(0, 10)] },
  curve: { points: round(5) },
  'to line': { points: [at(3, 7), at(0, 0), at(10, 0)] },
  'two lines': { points: [at(0, 0), at(10, 0), at(20, 0), at(30, 10)] },
  ratio: { points: [at(0, 0), at(30, 40), at(0, 0), at(0, 25)] },
  circle: { points: round(7) },
  ellipse: { points: round(9) },
  area: { points: [at(0, 0), at(10, 0), at(10, 20), at(0, 20)] },
  region: { points: [at(0, 0), at(10, 0), at(10, 20)] },
  profile: { points: [at(0, 0), at(10, 0)] },
  guide: {
    set: 'set-one',
    guide: 'crestal-bone',
    version: 1,
    view: 'tooth',
    points: { apex: at(40, 95), 'mesial crest': at(41, 62) }
  },
  arrow: { points: [at(0, 0), at(10, 0)] },
  text: { at: at(4, 5), words: 'Løst – “her” \\ ±' },
  label: { at: at(4, 5), place: { kind: 'tooth', tooth: 36 } },
  freehand: { way: [0, 5, 9].map((x) => ({ x, y: x * x })) },
  outline: { way: [0, 5, 9].map((x) => ({ x, y: x * x })) }
};
const idOf = (i: number) => `01a21c9b-7f49-747e-904a-b4892577${(4096 + i).toString(16)}`;
const items: PictureItem[] = Object.entries(bodies).map(([kind, body], i) => ({
  id: idOf(i),
  kind: kind as LayerName,
  body,
  by: ''
}));
const named: PictureItem = {
  id: idOf(0),
  kind: 'note',
  body: { name: 'Canal', hidden: false, repeatOf: null },
  by: ''
};
const facts = exampleFacts();
const made = { seriesUid: '2.25.77', instanceUid: '2.25.78', number: 1, date: '20240302', time: '101112' };
const newId = (() => {
  let count = 0;
  return () => `made-anew-${++count}`;
})();
const read = (set: ReturnType<typeof dataset>) => readDicom(writeDicomFile(set), () => new Uint8Array());
const state = (layers: PictureLayers, of = facts) =>
  presentationStateDataset({
    facts: of,
    sopClassUid: '1.2.840.10008.5.1.4.1.1.1.3',
    layers,
    notation: 'fdi',
    state: { ...made, creator: 'Vael^Orsin' }
  });

it('every kind that is drawn is tried here', () => {
  const drawn = layerKinds.filter(({ kind }) => layerKindOf(kind).placed && layerKindOf(kind).many);
  expect(Object.keys(bodies).sort()).toEqual(drawn.map(({ kind }) => kind).sort());
});

describe('what leaves without its identity', () => {
  const kept: PictureItem = {
    id: idOf(40),
    kind: 'kept',
    by: '',
    body: {
      name: 'Marrowby',
      kind: 'detail',
      remark: '',
      keptAt: '2026-03-04T05:06:07.000Z',
      frame: 0,
      window: { left: 1, top: 1, width: 3, height: 2 },
      orientation: upright,
      look: windowLook({ center: 9, width: 5 }),
      drawings: [],
      drawn: true,
      place: 0
    }
  };
  const ofSomebody: PictureItem[] = [
    { id: idOf(41), kind: 'text', by: '', body: { at: at(1, 2), words: 'Marrowby, lower edge' } },
    { id: idOf(0), kind: 'note', by: '', body: { name: 'For Isolde', hidden: false, repeatOf: idOf(1) } },
    kept
  ];
  const leaving = (rule: Partial<LeavingRule>): Leaving => ({
    rule: { ...usualRule, graphics: 'cleaned', ...rule },
    pseudonym: {
      name: 'QUIET-7',
      dateShiftDays: -40,
      clockShiftSeconds: 3600,
      replaceUid: (uid) =>
        `2.25.${BigInt(`0x${createHash('sha256').update(uid).digest('hex').slice(0, 31)}`)}`
    },
    terms: identityTerms(['Marrowby', 'Isolde'], []),
    pixelsCleaned: false
  });
  const whole = state({ ...noLayers, items: [...items, ...ofSomebody] });
  const away = (rule: Partial<LeavingRule>) => deidentified(whole, leaving(rule));

  it('carries nothing private of ours but where a rule keeps what is safe', () => {
    for (const rule of [{}, { safePrivate: true, graphics: 'dropped' as const }])
      expect(away(rule).some(({ tag }) => tag.startsWith('0071'))).toBe(false);
    const codes = (rule: Partial<LeavingRule>) =>
      inText(away(rule).find(({ tag }) => tag === '00120064')!).includes('113111');
    expect([codes({}), codes({ safePrivate: true })]).toEqual([false, true]);
  });

  it('with it is read back as readings, by other numbers and without names and kept views', () => {
    const set = read(away({ safePrivate: true }));
    const { layers, leftOut } = presentationRead(set, newId, facts.pixels);
    expect(leftOut).toEqual([]);
    expect(layers.map(({ kind }) => kind)).toEqual(
      [...items, ...ofSomebody.slice(0, 2)].map(({ kind }) => kind)
    );
    const [length] = layers;
    expect(length.body).toEqual(items[0].body);
    const words = JSON.stringify(layers);
    expect(words).not.toMatch(/Marrowby|Isolde|01a21c9b/i);
    expect(words).toMatch(/, lower edge/);
    // A note goes on belonging to its reading, and a repeat to what it repeats.
    const note = layers.at(-1)!;
    expect([note.item, (note.body as { repeatOf: string }).repeatOf]).toEqual([length.item, layers[1].item]);
    // The number is the one that a report gives the same reading.
    const { replaceUid } = leaving({}).pseudonym;
    expect(length.item).toBe(uuidOfUid(replaceUid(dicomUid(items[0].id))));
  });
});

describe('what is written is read back', () => {
  it('of a colour picture too, with the views that were kept of it', () => {
    const pixels = { ...facts.pixels, channels: 3 as const, bitsStored: 8 };
    const look = windowLook({ center: 90, width: 120 });
    const kept = {
      id: 'view-one',
      kind: 'kept' as const,
      by: '',
      body: {
        name: 'Edge',
        kind: 'finding' as const,
        remark: 'Compare in a year',
        keptAt: '2026-03-04T05:06:07.000Z',
        frame: 0,
        window: { left: 1, top: 1, width: 3, height: 2 },
        orientation: { quarterTurns: 1 as const, mirrored: false },
        look,
        drawings: [],
        drawn: true,
        place: 2
      }
    };
    const set = read(state({ ...noLayers, look, items: [items[0], kept] }, { ...facts, pixels }));
    expect(sopClassOf(set)).toBe(presentationStateClassUids.colour);
    expect(presentationRead(set, newId, pixels).layers).toEqual([
      { kind: 'look', item: null, body: look },
      { kind: items[0].kind, item: items[0].id, body: items[0].body },
      { kind: 'kept', item: 'view-one', body: kept.body }
    ]);
  });
  it('from a presentation state: look with all its steps, turn, and every drawing and reading as it was', () => {
    const look = inserted(windowLook({ center: 9, width: 5 }, true), 1, { kind: 'gamma', gamma: 1.4 });
    const orientation: Orientation = { quarterTurns: 3, mirrored: true, tiltDeg: -2.4 };
    const crop = { window: { left: 1, top: 2, width: 3, height: 4 }, orientation };
    const set = read(state({ ...noLayers, look, orientation, crop, items: [...items, named] }));
    expect(sopClassOf(set)).toBe(presentationStateClassUids.grey);
    const { about, layers, leftOut } = presentationRead(set, newId, facts.pixels);
    expect([about, leftOut]).toEqual([[facts.instance.uid], []]);
    expect(layers).toEqual([
      { kind: 'look', item: null, body: look },
      { kind: 'orientation', item: null, body: orientation },
      { kind: 'crop', item: null, body: crop },
      ...[...items, named].map(({ id, kind, body }) => ({ kind, item: id, body }))
    ]);
  });

  it('says that something was written by a program that knows more', () => {
    const set = state({ ...noLayers, items: items.slice(0, 2) });
    const carried = set.find(({ tag }) => tag === '00711001')!;
    carried.value = [String((carried.value as string[])[0]).replace('"version":1', '"version":99')];
    const { layers, leftOut } = presentationRead(read(set), newId, facts.pixels);
    expect([layers.length, leftOut]).toEqual([1, ['something that a newer Yonder Tray wrote']]);
  });

  it('from a report: every reading by its points and its name, to a thousandth of a pixel', () => {
    const measured = readingsOf({ ...noLayers, items: [...items, named] }, null).filter(
      ({ item, values }) => layerKindOf(item.kind).measure && values.length > 0
    );
    const set = read(
      measurementReportDataset({
        facts,
        sopClassUid: '1.2.840.10008.5.1.4.1.1.1.3',
        readings: measured.map(({ item, note }) => ({
          item,
          name: note.name,
          scale: null,
          trackingUid: dicomUid(item.id)
        })),
        report: { ...made, observer: 'Vael^Orsin' }
      })
    );
    const { about, layers, leftOut } = reportRead(set, newId);
    expect([about, leftOut]).toEqual([[facts.instance.uid], []]);
    expect(layers.filter(({ kind }) => kind === 'note')).toEqual([
      { kind: 'note', item: named.id, body: named.body }
    ]);
    const again = layers.filter(({ kind }) => kind !== 'note');
    expect(again.map(({ kind, item }) => [kind, item])).toEqual(
      measured.map(({ item }) => [item.kind, item.id])
    );
    for (const { kind, item, body } of again) {
      const before = layerKindOf(kind).placed!.pointsOf(items.find(({ id }) => id === item)!.body);
      const after = layerKindOf(kind).placed!.pointsOf(body);
      expect(after).toHaveLength(before.length);
      after.forEach((point, i) => {
        expect(Math.hypot(point.x - before[i].x, point.y - before[i].y)).toBeLessThan(0.001);
        expect(point.uncertaintyPx).toBeCloseTo(0.75, 6);
      });
    }
  });

  it('from a report: a guide’s landmarks as they lay, and words for a guide that is not known here', () => {
    const point = (x: number, y: number) => ({ x, y, uncertaintyPx: 0.5 });
    const landmarks = [
      { key: 'styloid', name: 'Styloid', point: point(12.25, 40.5) },
      { key: 'axis lower', name: 'Axis', point: point(30, 90.125) }
    ];
    const value = { value: 21.5, unit: 'deg' as const, plusMinus: 0.5 };
    const told = (guide: string) =>
      reportRead(
        read(
          measurementReportDataset({
            facts,
            sopClassUid: '1.2.840.10008.5.1.4.1.1.1.3',
            readings: [],
            guides: [
              {
                guide: { key: guide, version: 1, name: 'Wrist' },
                view: { key: 'front', name: 'From the front' },
                trackingUid: dicomUid(idOf(8)),
                landmarks,
                results: [
                  {
                    key: 'inclination',
                    name: 'Inclination',
                    value,
                    from: landmarks.map((each) => each.point)
                  }
                ]
              }
            ],
            report: { ...made, observer: 'Vael^Orsin' }
          })
        ),
        newId
      );
    expect(told('distal-radius').layers).toEqual([
      {
        kind: 'guide',
        item: idOf(8),
        body: {
          set: idOf(8),
          guide: 'distal-radius',
          version: 1,
          view: 'front',
          points: Object.fromEntries(landmarks.map((each) => [each.key, each.point]))
        }
      }
    ]);
    expect(told('somebody-elses')).toMatchObject({
      layers: [],
      leftOut: ['landmarks of a guide that this program does not have']
    });
  });

  it('of UIDs of ours and of others', () => {
    expect(uuidOfUid(dicomUid(idOf(3)))).toBe(idOf(3));
    expect(uuidOfUid('1.2.840.10008.1.1')).toBeNull();
    expect(uuidOfUid(`2.25.${'9'.repeat(39)}`)).toBeNull();
  });
});

describe('a presentation state from elsewhere', () => {
  const graphic = (GraphicType: string, GraphicData: number[], units = 'PIXEL'): Attributes => ({
    GraphicAnnotationUnits: units,
    GraphicDimensions: 2,
    NumberOfGraphicPoints: GraphicData.length / 2,
    GraphicData,
    GraphicType
  });
  const foreign = (graphics: Attributes[], texts: Attributes[] = [], more: Attributes = {}) =>
    presentationRead(
      read(
        dataset({
          SOPClassUID: presentationStateClassUids.grey,
          SOPInstanceUID: '1.2.3.4',
          ReferencedSeriesSequence: [{ ReferencedImageSequence: [{ ReferencedSOPInstanceUID: '1.2.3' }] }],
          GraphicAnnotationSequence: [{ GraphicObjectSequence: graphics, TextObjectSequence: texts }],
          ...more
        })
      ),
      newId,
      { width: 200, height: 100 }
    );

  it('is shown as far as the standard goes: lines, circles, ellipses and words', () => {
    const { about, layers, leftOut } = foreign(
      [
        graphic('POLYLINE', [0, 0, 10, 5]),
        graphic('POLYLINE', [0, 0, 10, 0, 10, 10, 0, 0]),
        graphic('CIRCLE', [50, 50, 60, 50]),
        graphic('ELLIPSE', [20, 50, 80, 50, 50, 40, 50, 60])
      ],
      [
        {
          UnformattedTextValue: 'Apex',
          AnchorPointAnnotationUnits: 'PIXEL',
          AnchorPoint: [7, 8],
          AnchorPointVisibility: 'N'
        }
      ]
    );
    expect([about, leftOut]).toEqual([['1.2.3'], []]);
    expect(layers.map(({ kind }) => kind)).toEqual(['freehand', 'outline', 'outline', 'outline', 'text']);
    expect(layers[0].body).toEqual({
      way: [
        { x: 0, y: 0 },
        { x: 10, y: 5 }
      ]
    });
    const radii = (layers[2].body as { way: { x: number; y: number }[] }).way.map(({ x, y }) =>
      Math.hypot(x - 50, y - 50)
    );
    for (const radius of radii) expect(radius).toBeCloseTo(10, 5);
    for (const { x, y } of (layers[3].body as { way: { x: number; y: number }[] }).way)
      expect(((x - 50) / 30) ** 2 + ((y - 50) / 10) ** 2).toBeCloseTo(1, 5);
    expect(layers[4].body).toEqual({ at: { x: 7, y: 8, uncertaintyPx: 1 }, words: 'Apex' });
  });

  it('is cropped to its displayed area as that is seen, and not at all where it shows everything', () => {
    const area = (from: [number, number], to: [number, number]): Attributes => ({
      DisplayedAreaSelectionSequence: [
        { DisplayedAreaTopLeftHandCorner: from, DisplayedAreaBottomRightHandCorner: to }
      ]
    });
    // A quarter turn: what is seen at the top left is stored at the lower left.
    const turned = { ...area([11, 80], [60, 21]), ImageRotation: 90, ImageHorizontalFlip: 'N' };
    const [orientation, crop] = foreign([], [], turned).layers;
    expect(orientation.body).toEqual({ quarterTurns: 1, mirrored: false });
    expect(crop).toEqual({
      kind: 'crop',
      item: null,
      body: { window: { left: 20, top: 10, width: 60, height: 50 }, orientation: orientation.body }
    });
    expect(foreign([], [], area([1, 1], [200, 100])).layers).toEqual([]);
    expect(foreign([], [], area([-40, -3], [240, 140])).layers).toEqual([]);
    expect(foreign([], [], area([5, 5], [9, 90])).layers).toEqual([]);
  });

  it('shows the part that one of ours shows, also by what the standard says of it alone', () => {
    const size = { width: 60, height: 40 };
    const large = { ...facts, scale: null, pixels: { ...facts.pixels, ...size } };
    const orientation: Orientation = { quarterTurns: 1, mirrored: true };
    const crop = { window: { left: 3, top: 4, width: 20, height: 18 }, orientation };
    const ours = state({ ...noLayers, orientation, crop }, large);
    const { layers } = presentationRead(read(ours.filter(({ tag }) => !tag.startsWith('0071'))), newId, size);
    expect(layers.find(({ kind }) => kind === 'crop')?.body).toEqual(crop);
  });

  it('keeps of long words what a text holds, and says so', () => {
    const long = {
      UnformattedTextValue: 'a'.repeat(150),
      AnchorPointAnnotationUnits: 'PIXEL',
      AnchorPoint: [7, 8]
    };
    const { layers, leftOut } = foreign([], [long]);
    expect((layers[0].body as { words: string }).words).toHaveLength(120);
    expect(leftOut).toEqual(['the ends of long words']);
  });

  it('says what is left out', () => {
    const { layers, leftOut } = foreign([
      graphic('POINT', [3, 4]),
      graphic('POLYLINE', [0, 0, 0.5, 0.5], 'DISPLAY'),
      graphic('POLYLINE', [NaN, 0, 1, 1])
    ]);
    expect(layers).toEqual([]);
    expect(leftOut).toHaveLength(3);
  });

  it.each(
    [0, 1, 2, 3].flatMap((quarterTurns) => [false, true].map((mirrored) => ({ quarterTurns, mirrored })))
  )('is turned as it says: %o', (orientation) => {
    const turn = layerKindOf('orientation').presentation!(orientation);
    const { layers } = foreign([], [], {
      ...turn,
      SoftcopyVOILUTSequence: [{ WindowCenter: 40, WindowWidth: 80 }],
      PresentationLUTShape: 'INVERSE'
    });
    expect(layers).toEqual([
      { kind: 'orientation', item: null, body: orientation },
      { kind: 'look', item: null, body: windowLook({ center: 40, width: 80 }, true) }
    ]);
  });
});

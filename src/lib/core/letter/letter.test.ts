import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import type { PatientBand } from '../visit/visitView';
import { readTemplateFile, templateFile } from './exported';
import {
  type LetterBody,
  fieldsOfLetter,
  letterBodySchema,
  placesOfLetter,
  wordsOfLetter
} from './letterBody';
import { type LetterFacts, fieldValues, isLetterField } from './letterFields';
import { letterMissing } from './letterMissing';
import { type PicturePlace, captionMm, rowHeightMm, wantWords } from './letterPlace';
import { shippedTemplates } from './shipped';
import { alignedInRow, keptInside, roomForMore, snapMoved, snapSized } from './snapping';
import { insideMm } from '../print/paper';

const id = (n: number) => `0190aaaa-0000-7000-8000-${String(n).padStart(12, '0')}`;
const place = (n: number, own: Partial<PicturePlace> = {}): PicturePlace => ({
  id: id(n),
  xMm: 0,
  yMm: 0,
  widthMm: 60,
  heightMm: 50,
  want: { kind: 'newest', category: 'Referral', place: '', pictureKind: null },
  caption: '',
  drawn: true,
  atMostMonths: 12,
  ...own
});
const body = (...content: LetterBody['content']): LetterBody => ({ type: 'doc', content });
const field = (name: string): LetterBody['content'][number] => ({
  type: 'paragraph',
  content: [{ type: 'field', attrs: { name } }]
});

const patient: PatientBand = {
  patientId: id(1),
  kind: 'animal',
  name: 'Bracken',
  familyName: '',
  birthDate: '2019-04-02',
  sex: 'female',
  recordNumber: 'QS-A204',
  species: 'dog',
  owner: 'Isla Thorne',
  alert: null
};
const facts: LetterFacts = {
  patient,
  to: null,
  today: '29 November 2026',
  todayDate: '2026-11-29',
  visitDay: '28 November 2026',
  room: 'Animals',
  reasons: ['Lame behind', 'Second look'],
  procedures: ['Hips'],
  texts: { question: 'Is it the hip?', history: '', plan: '', colleague: '' },
  findings: ['Shallow socket on the left'],
  clinic: 'Quill Sound',
  clinicAddress: '',
  author: 'Tamsin Orsin',
  dateWords: (date) => `day ${date}`
};

describe('what a letter is filled with', () => {
  it('by initials tells how old, and keeps back who', () => {
    const told = fieldValues(facts, 'initials');
    expect([told.born, told['record number'], told.owner]).toEqual(['', '', '']);
    const person = { ...patient, kind: 'person' as const, name: 'Wenna Carrow' };
    expect(fieldValues({ ...facts, patient: person }, 'initials').patient).toBe('W. C.');
    expect(told.age).toBe('7 years');
    const full = fieldValues(facts, 'full');
    expect(full).toMatchObject({ patient: 'Bracken', born: 'day 2019-04-02', owner: 'Isla Thorne' });
    expect(full.reasons).toBe('Lame behind; Second look');
  });

  it('has every field of the templates that ship, and no two places of one name', () => {
    for (const { body: each } of shippedTemplates) {
      expect(letterBodySchema.parse(each)).toEqual(each);
      for (const name of fieldsOfLetter(each)) expect(isLetterField(name), name).toBe(true);
    }
    const ids = shippedTemplates.flatMap((each) => placesOfLetter(each.body)).map((each) => each.id);
    expect(new Set(ids).size).toBe(ids.length);
  });
});

describe('what is told before a letter is made', () => {
  const now = new Date('2026-11-29T10:00:00Z');
  const told = (letter: LetterBody, own: Partial<Parameters<typeof letterMissing>[1]> = {}) =>
    letterMissing(letter, {
      fields: fieldValues(facts, 'full'),
      places: {},
      readings: 0,
      names: 'full',
      now,
      placeWords: (key) => key,
      ...own
    });

  it('is a field without a value, one that is no more, and one that is kept back', () => {
    const letter = body(field('history'), field('question'), field('shoe size'), field('owner'));
    expect(told(letter).map(({ kind, of }) => [kind, of])).toEqual([
      ['field', 'history'],
      ['unknown field', 'shoe size']
    ]);
    expect(told(letter, { names: 'initials' }).map(({ kind }) => kind)).toEqual([
      'field',
      'unknown field',
      'kept back'
    ]);
  });

  it('is a place that stays empty, one whose picture is gone, and a picture that is too old', () => {
    const letter = body({
      type: 'pictures',
      attrs: {
        places: [
          place(1),
          place(2, { want: { kind: 'picked', pictureId: id(9) } }),
          place(3, { want: { kind: 'picked', pictureId: null } }),
          place(4),
          place(5, { atMostMonths: null })
        ]
      }
    });
    const old = { pictureId: id(7), takenAt: '2025-08-01T00:00:00Z' };
    const missing = told(letter, { places: { [id(4)]: old, [id(5)]: old } });
    expect(missing.map(({ kind, of }) => [kind, of])).toEqual([
      ['place', id(1)],
      ['gone', id(2)],
      ['place', id(3)],
      ['old', id(4)]
    ]);
    expect(missing[0].words).toContain('filed under Referral');
    expect(missing[3].words).toBe('Picture 4 is 15 months old; at most 12 are wanted.');
  });

  it('is a table of readings with nothing in it', () => {
    expect(told(body({ type: 'readings' })).map(({ of }) => of)).toEqual(['readings']);
    expect(told(body({ type: 'readings' }), { readings: 2 })).toEqual([]);
  });
});

describe('places', () => {
  it('go onto the edges of others, and beside them by a gap', () => {
    const other = place(1, { xMm: 0, yMm: 0, widthMm: 60, heightMm: 50 });
    const { place: beside, lines } = snapMoved(place(2, { xMm: 66.2, yMm: 1.4 }), [other]);
    expect([beside.xMm, beside.yMm]).toEqual([65, 0]);
    expect(lines.map(({ way, atMm }) => [way, atMm])).toEqual([
      ['upright', 65],
      ['across', 0]
    ]);
    const { place: alike } = snapSized(place(2, { xMm: 65, yMm: 0, widthMm: 61.5, heightMm: 48.6 }), [other]);
    expect([alike.widthMm, alike.heightMm]).toEqual([60, 50]);
  });

  it('go exactly as far as somebody says by keys, and no further than their row', () => {
    const near = keptInside(place(1, { xMm: 1, yMm: 1, widthMm: 173 }));
    expect([near.xMm, near.yMm, near.widthMm]).toEqual([1, 1, 173]);
    expect(keptInside(place(1, { xMm: 150, widthMm: 400 }))).toMatchObject({ xMm: 0, widthMm: insideMm });
  });

  it('never leave their row, wherever they are pulled', () => {
    const random = seededRandom(3);
    for (let i = 0; i < 500; i++) {
      const others = Array.from(
        { length: 3 },
        (_, n) => snapMoved(place(n, { xMm: 150 * random.uniform(), yMm: 100 * random.uniform() }), []).place
      );
      const pulled = place(9, { xMm: 600 * random.uniform() - 200, yMm: 600 * random.uniform() - 200 });
      const moved = snapMoved(pulled, others).place;
      const sized = snapSized(
        { ...moved, widthMm: 400 * random.uniform(), heightMm: 400 * random.uniform() },
        others
      ).place;
      for (const each of [moved, sized]) {
        expect(
          letterBodySchema.safeParse(body({ type: 'pictures', attrs: { places: [each] } })).success
        ).toBe(true);
        expect(each.xMm + each.widthMm).toBeLessThanOrEqual(insideMm + 1e-9);
      }
    }
  });

  it('are aligned at once: one height, one size, in the order they lay in', () => {
    const lain = [
      place(1, { xMm: 90, yMm: 30 }),
      place(2, { xMm: 3, yMm: 7 }),
      place(3, { xMm: 40, yMm: 2 })
    ];
    const aligned = alignedInRow(lain);
    expect(aligned.map(({ id: of }) => of)).toEqual(lain.map(({ id: of }) => of));
    expect(new Set(aligned.map(({ yMm, widthMm, heightMm }) => `${yMm} ${widthMm} ${heightMm}`)).size).toBe(
      1
    );
    expect(aligned[1].xMm).toBe(0);
    expect(aligned[0].xMm + aligned[0].widthMm).toBeCloseTo(insideMm, 6);
    expect(() => alignedInRow(Array.from({ length: 12 }, (_, n) => place(n)))).toThrow(RangeError);
  });

  it('find room for one more, and the row is as high as they are with their captions', () => {
    const first = place(1, { widthMm: 100 });
    expect(roomForMore([first], { widthMm: 60, heightMm: 50 })).toMatchObject({ xMm: 105, yMm: 0 });
    expect(roomForMore([first], { widthMm: 80, heightMm: 50 })).toMatchObject({ xMm: 0, yMm: 60 });
    expect(rowHeightMm([first, place(2, { yMm: 60 })])).toBe(110 + captionMm);
  });

  it('say what they take', () => {
    const words = (want: PicturePlace['want']) =>
      wantWords(want, (key) => (key === 'w' ? 'left wrist' : key));
    expect(words({ kind: 'newest', category: 'Referral', place: 'w', pictureKind: 'radiograph' })).toBe(
      'the newest x-ray of left wrist, filed under Referral'
    );
    expect(words({ kind: 'newest', category: '', place: '', pictureKind: null })).toBe('the newest picture');
  });
});

describe('a template as a file', () => {
  it('is read back as it was', () => {
    for (const { name, body: each } of shippedTemplates)
      expect(readTemplateFile(templateFile(name, each))).toEqual({ name, body: each });
  });

  it('keeps a field that this program does not know, to be told', () => {
    const read = readTemplateFile(templateFile('Odd', body(field('shoe size'))));
    expect(fieldsOfLetter(read.body)).toEqual(['shoe size']);
  });

  it.each([
    ['no JSON', 'Dear colleague', 'not written as JSON'],
    ['something else', '{"what":"recipe"}', 'no letter template'],
    ['a newer one', templateFile('N', body(field('to'))).replace('"version": 1', '"version": 9'), 'newer'],
    [
      'a place of no size',
      templateFile('P', body({ type: 'pictures', attrs: { places: [place(1, { widthMm: 0 })] } })),
      'can’t be read|can.t be read'
    ],
    [
      'one that is nested without end',
      `{"what":"letter template","version":1,"name":"deep","body":{"type":"doc","content":[${'{"type":"bulletList","content":[{"type":"listItem","content":['.repeat(300)}${']}]}'.repeat(300)}]}}`,
      'nested too deep'
    ]
  ])('is refused in words where it is %s', (_, text, why) => {
    expect(() => readTemplateFile(text)).toThrow(new RegExp(why));
  });

  it('has its words found, for names that stand in them', () => {
    expect(
      wordsOfLetter(
        body(
          { type: 'paragraph', content: [{ type: 'text', text: 'About Bracken' }] },
          { type: 'pictures', attrs: { places: [place(1, { caption: 'Bracken’s hip' })] } }
        )
      )
    ).toBe('About Bracken Bracken’s hip');
  });
});

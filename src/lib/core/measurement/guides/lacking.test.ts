import { describe, expect, it } from 'vitest';
import { lacking, whyUnread } from './lacking';
import { type WrittenGuide, writtenGuideSchema } from './writtenSchema';

/** A guide that lacks nothing, with one part otherwise. */
const guide = (change: (whole: WrittenGuide) => void = () => {}): WrittenGuide => {
  const whole: WrittenGuide = {
    format: 'yonder-tray guide',
    formatVersion: 1,
    name: 'Gap',
    trade: 'bones',
    views: [
      {
        key: 'v1',
        name: 'From the front',
        drawing: null,
        landmarks: ['Tip', 'Corner'].map((name, i) => ({ key: `p${i}`, name, where: 'There', x: i, y: 0.5 })),
        lines: []
      }
    ],
    results: [
      {
        key: 'r1',
        name: 'Width',
        measure: 'length',
        view: 'v1',
        of: ['p0', 'p1'],
        source: { author: 'We', year: 2026, title: 'House rule' },
        normal: null,
        mind: ''
      }
    ]
  };
  change(whole);
  return whole;
};

describe('a guide while it is written', () => {
  it('lacks nothing once all is there', () => {
    expect(lacking(guide())).toBeNull();
  });
  it.each<[string, (whole: WrittenGuide) => void]>([
    ['The guide has no name yet.', (whole) => (whole.name = '  ')],
    ['A view has no name yet.', ({ views }) => (views[0].name = '')],
    ['“From the front” has no landmarks yet', ({ views }) => (views[0].landmarks = [])],
    ['Landmark 2 of “From the front” has no name yet.', ({ views }) => (views[0].landmarks[1].name = '')],
    ['“Tip” does not say where it is yet.', ({ views }) => (views[0].landmarks[0].where = '')],
    ['Nothing is measured yet', (whole) => (whole.results = [])],
    ['A result has no name yet.', ({ results }) => (results[0].name = '')],
    ['“Width” needs 2 landmarks.', ({ results }) => (results[0].of = ['p0', ''])],
    ['“Width” does not say where it comes from yet', ({ results }) => (results[0].source.title = '')],
    [
      '“Width” does not say where it comes from yet',
      ({ results }) => (results[0].source.year = null as unknown as number)
    ],
    ['range rises from low to high', ({ results }) => (results[0].normal = { low: 4, high: 2 })],
    ['Width needs the same landmark twice', ({ results }) => (results[0].of = ['p0', 'p0'])]
  ])('says what it lacks first: %s', (words, change) => {
    expect(lacking(guide(change))).toContain(words);
  });
  it('and a file that is none says where in it', () => {
    const read = writtenGuideSchema.safeParse(guide(({ views }) => (views[0].landmarks[1].where = '')));
    expect(whyUnread(read.error!.issues)).toBe('No words stand here (at views 1 landmarks 2 where).');
  });
});

import { describe, expect, it } from 'vitest';
import { placeKey, placeSchema } from '../anatomy/place';
import { bodyMaps } from '../anatomy/placeKind';
import type { Spot } from './drawing';
import { fullest, sheetsOf } from './drawings';
import { mapSvg } from './mapSvg';

const sheets = sheetsOf(bodyMaps);
const spotOf = (key: string): Spot =>
  sheets.flatMap(({ drawing }) => drawing.spots).find(({ place }) => placeKey(place) === key)!;

describe.each(sheets.map((sheet) => [sheet.id, sheet.drawing] as const))(
  'the drawing of %s',
  (_, drawing) => {
    const { spots, width, height } = drawing;
    it('holds places that can be linked, each once, inside its frame', () => {
      for (const { place } of spots) expect(placeSchema.safeParse(place).success, placeKey(place)).toBe(true);
      expect(new Set(spots.map(({ place }) => placeKey(place))).size).toBe(spots.length);
      for (const { x, y, label, place } of spots) {
        for (const at of [{ x, y }, label ?? { x, y }]) {
          expect(at.x, placeKey(place)).toBeGreaterThan(6);
          expect(at.x, placeKey(place)).toBeLessThan(width - 6);
          expect(at.y, placeKey(place)).toBeGreaterThan(6);
          expect(at.y, placeKey(place)).toBeLessThan(height - 6);
        }
      }
    });
    it('lets no spot hide the middle of another', () => {
      const covers = (a: Spot, b: Spot) => {
        const turn = (-a.turnDeg * Math.PI) / 180;
        const [dx, dy] = [b.x - a.x, b.y - a.y];
        const x = dx * Math.cos(turn) - dy * Math.sin(turn);
        const y = dx * Math.sin(turn) + dy * Math.cos(turn);
        return (2 * x) ** 2 / a.width ** 2 + (2 * y) ** 2 / a.height ** 2 < 1;
      };
      for (const [i, a] of spots.entries()) {
        for (const b of spots.slice(i + 1)) {
          // The trunk lies behind its spine, which is drawn over it.
          if (a.place.kind === 'trunk' && b.place.kind === 'spine') continue;
          expect(covers(a, b) || covers(b, a), `${placeKey(a.place)} and ${placeKey(b.place)}`).toBe(false);
        }
      }
    });
    it('is the same on both sides', () => {
      const at = new Set(spots.map(({ x, y }) => `${x.toFixed(3)} ${y.toFixed(3)}`));
      for (const { x, y } of spots) expect(at.has(`${(width - x).toFixed(3)} ${y.toFixed(3)}`)).toBe(true);
    });
  }
);

describe('words that pick several places', () => {
  const mouths = sheets.filter(({ drawing }) => drawing.words.some(({ picks }) => picks));

  it.each(mouths.map((sheet) => [sheet.id, sheet.drawing] as const))(
    'stand for both jaws and both sides of %s, each tooth once in either',
    (_, { spots, words }) => {
      const every = spots.map(({ place }) => placeKey(place)).sort();
      const picked = (text: string) => words.find((word) => word.text === text)!.picks!.places.map(placeKey);
      for (const halves of [
        ['upper', 'lower'],
        ['right', 'left']
      ])
        expect(halves.flatMap(picked).sort()).toEqual(every);
      const middle = 200;
      for (const key of picked('right'))
        expect(spots.find(({ place }) => placeKey(place) === key)!.x).toBeLessThan(middle);
    }
  );
  it('are on every drawing of teeth', () => expect(mouths).toHaveLength(6));
});

describe('what is right', () => {
  it.each([
    ['tooth:16', 'tooth:26'],
    ['tooth:85', 'tooth:75'],
    ['animal tooth:dog:108', 'animal tooth:dog:208'],
    ['animal tooth:horse:406', 'animal tooth:horse:306'],
    ['bone:person:wrist:right', 'bone:person:wrist:left'],
    ['bone:person:thumb:right', 'bone:person:thumb:left'],
    ['bone:person:great toe:right', 'bone:person:great toe:left'],
    ['bone:animal:stifle:right', 'bone:animal:stifle:left'],
    ['eye:right:up', 'eye:left:up']
  ])('lies at the viewer’s left: %s', (right, left) => expect(spotOf(right).x).toBeLessThan(spotOf(left).x));
  it('is the side of the nose that is nearer to the other eye', () => {
    expect(spotOf('eye:right:towards the nose').x).toBeGreaterThan(spotOf('eye:right:up').x);
    expect(spotOf('eye:left:towards the nose').x).toBeLessThan(spotOf('eye:left:up').x);
  });
  it('is the upper jaw above', () => {
    for (const [upper, lower] of [
      ['tooth:11', 'tooth:41'],
      ['animal tooth:cat:104', 'animal tooth:cat:404']
    ])
      expect(spotOf(upper).y).toBeLessThan(spotOf(lower).y);
  });
});

describe('the drawing for a paper', () => {
  it('is the sheet with most pictures: milk teeth bring up the mouth that grows, nothing the first', () => {
    const mouths = sheetsOf(['teeth']);
    expect(fullest(mouths, {}).id).toBe('teeth');
    expect(fullest(mouths, { 'tooth:54': 2, 'tooth:55': 1, 'tooth:11': 1 }).id).toBe('mixed teeth');
  });

  it('says at each place how many pictures there are, by its own notation', () => {
    const svg = mapSvg(fullest(sheetsOf(['teeth']), {}).drawing, { 'tooth:16': 7 }, 'universal');
    expect(svg.match(/>7</g)).not.toBeNull();
    expect(svg.match(/fill="#9dbfb4"/g)).toHaveLength(1);
    expect(svg).toMatch(/font-weight="bold"[^>]*>3</);
  });
});

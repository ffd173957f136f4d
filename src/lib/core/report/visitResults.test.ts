import { describe, expect, it } from 'vitest';
import type { Place } from '../anatomy/place';
import type { PlacedPoint, Scale } from '../calibration/scale';
import { confirmable } from '../picture/layers/confirmed/confirmed';
import { type PictureItem, noLayers } from '../picture/pictureLayers';
import type { PictureView } from '../picture/pictureView';
import { rangeInWords, visitResults } from './visitResults';

const scale: Scale = {
  source: 'calibrated',
  mmPerPixelX: 0.5,
  mmPerPixelY: 0.5,
  relativeUncertainty: 0.001,
  description: ''
};
const people = { m: 'Mara Fennick', o: 'Orsin Vael' };
const picture = (
  pictureId: string,
  takenAt: string,
  items: PictureItem[],
  places: Place[] = [],
  fileScale: Scale | null = scale
) =>
  ({
    pictureId,
    takenAt,
    fileName: `${pictureId}.png`,
    width: 800,
    height: 1200,
    fileScale,
    firstOrientation: { quarterTurns: 0, mirrored: false },
    links: places,
    placed: true,
    people,
    layers: { ...noLayers, items }
  }) as unknown as PictureView;
const point = (x: number, y: number): PlacedPoint => ({ x, y, uncertaintyPx: 0.5 });
/** Markers of the front: the head tilted, chest and pelvis level, the chest 20 pixels to the left. */
function front(set: string, tiltDeg: number, by = 'm'): PictureItem {
  const [c, s] = [60 * Math.cos((tiltDeg * Math.PI) / 180), 60 * Math.sin((tiltDeg * Math.PI) / 180)];
  return {
    id: set,
    kind: 'guide',
    by,
    body: {
      set,
      guide: 'posture',
      version: 2,
      view: 'front',
      points: {
        'head right': point(420 - c, 160 + s),
        'head left': point(420 + c, 160 - s),
        'chest right': point(300, 290),
        'chest left': point(540, 290),
        'pelvis right': point(320, 550),
        'pelvis left': point(480, 550)
      }
    }
  };
}
const stamp = ({ id, body }: PictureItem): PictureItem => ({
  id,
  kind: 'confirmed',
  body: { as: confirmable(body) },
  by: 'o'
});

describe('what was measured in a visit', () => {
  const today = front('now', 5);
  it('is told with its ±, by whom it was prepared, and that it waits', () => {
    const { guides, readings } = visitResults([picture('p', '2026-03-01T08:00:00Z', [today])], [], 'en-GB');
    expect(readings).toEqual([]);
    expect(guides).toHaveLength(1);
    const [{ lines, preparedBy, confirmedBy, since, leftOut, figure, sources }] = guides;
    expect(lines.find(({ key }) => key === 'head roll')!.value).toMatch(/^5\.0 ± 0\.\d+°$/);
    expect(lines.find(({ key }) => key === 'chest left')!.value).toMatch(/^10\.0 ± 0\.\d+ mm$/);
    expect([preparedBy, confirmedBy, since]).toEqual([['Mara Fennick'], [], null]);
    expect(leftOut).toBe(10);
    expect(figure!.side).toBeNull();
    expect(sources.join()).toContain('Harrison');
  });

  it('names who confirmed it, only while every part is as it was confirmed', () => {
    const whole = (items: PictureItem[]) =>
      visitResults([picture('p', '2026-03-01T08:00:00Z', items)], [], 'en-GB').guides[0].confirmedBy;
    expect(whole([today, stamp(today)])).toEqual(['Orsin Vael']);
    expect(whole([today, stamp(front('now', 6))])).toEqual([]);
  });

  it('says what has changed since the visit before, and whether measuring alone can make it', () => {
    const at = (tiltDeg: number, day: string) =>
      picture(day, `2026-${day}T08:00:00Z`, [front(`set ${day}`, tiltDeg)]);
    const [{ lines, since }] = visitResults(
      [picture('p', '2026-03-01T08:00:00Z', [today])],
      [at(1, '01-05'), at(2, '02-05')],
      'en-GB'
    ).guides;
    expect(since).toBe('2026-02-05T08:00:00Z');
    expect(lines.find(({ key }) => key === 'head roll')!.change).toMatch(/^\+3\.0 ± \d\.\d+°$/);
    expect(lines.find(({ key }) => key === 'chest roll')!.change).toContain('may be the measuring alone');
  });

  it('is not compared with pixels, nor with what came after', () => {
    const pixels = picture('q', '2026-01-01T08:00:00Z', [front('before', 1)], [], null);
    const [{ lines }] = visitResults(
      [picture('p', '2026-03-01T08:00:00Z', [today])],
      [pixels],
      'en-GB'
    ).guides;
    expect(lines.find(({ key }) => key === 'chest left')!.change).toBe('');
    expect(lines.find(({ key }) => key === 'head roll')!.change).toMatch(/^\+4/);
    const later = picture('q', '2026-04-01T08:00:00Z', [front('after', 1)]);
    expect(
      visitResults([picture('p', '2026-03-01T08:00:00Z', [today])], [later], 'en-GB').guides[0].since
    ).toBeNull();
  });

  it('lists readings by their pictures, with who confirmed each', () => {
    const line: PictureItem = {
      id: 'a',
      kind: 'length',
      body: { ends: [point(100, 100), point(100, 140)] },
      by: 'm'
    };
    const { readings } = visitResults([picture('p', '2026-03-01T08:00:00Z', [line, stamp(line)])], [], 'de');
    expect(readings).toHaveLength(1);
    expect(readings[0]).toMatchObject({ name: 'Length 1', confirmedBy: 'Orsin Vael' });
    expect(readings[0].value).toMatch(/^20,0\d* ± 0,\d+ mm$/);
  });
});

it('a range is told by its limits, or by the one that there is', () => {
  const source = { author: 'A', year: 2000, title: 'T' };
  expect(rangeInWords({ low: 2, high: 9, source }, 'deg', 'en-GB')).toBe('2 to 9°');
  expect(rangeInWords({ low: null, high: 5.5, source }, 'mm', 'fr')).toBe('up to 5,5 mm');
  expect(rangeInWords({ low: 20, high: null, means: 'of adults', source }, '%', 'en-GB')).toBe(
    'from 20 %, of adults'
  );
});

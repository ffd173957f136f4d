import { describe, expect, it } from 'vitest';
import { drawnTeeth, mapHeight, mapWidth } from './arch';

describe('the tooth map', () => {
  const teeth = drawnTeeth();
  const at = (tooth: number) => teeth.find((each) => each.tooth === tooth)!;

  it('draws each of the 32 teeth once, inside the drawing', () => {
    expect(new Set(teeth.map((each) => each.tooth)).size).toBe(32);
    for (const each of teeth) {
      expect(each.labelX).toBeGreaterThan(6);
      expect(each.labelX).toBeLessThan(mapWidth - 6);
      expect(each.labelY).toBeGreaterThan(6);
      expect(each.labelY).toBeLessThan(mapHeight - 6);
    }
  });
  it('shows the patient’s right on the viewer’s left and the upper jaw above', () => {
    expect(at(16).x).toBeLessThan(at(26).x);
    expect(at(46).x).toBeLessThan(at(36).x);
    expect(at(11).y).toBeLessThan(at(41).y);
  });
  it('is the same on both sides', () => {
    for (const place of [1, 2, 3, 4, 5, 6, 7, 8]) {
      expect(at(10 + place).x + at(20 + place).x).toBeCloseTo(mapWidth, 6);
      expect(at(10 + place).y).toBeCloseTo(at(20 + place).y, 6);
    }
  });
  it('lets no two teeth overlap', () => {
    for (const a of teeth) {
      for (const b of teeth) {
        if (a.tooth >= b.tooth) continue;
        expect(Math.hypot(a.x - b.x, a.y - b.y), `${a.tooth} and ${b.tooth}`).toBeGreaterThan(
          (Math.min(a.width, a.depth) + Math.min(b.width, b.depth)) / 2 - 3
        );
      }
    }
  });
});

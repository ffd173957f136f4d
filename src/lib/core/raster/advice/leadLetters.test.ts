import { describe, expect, it } from 'vitest';
import type { Transfer } from '../../phantom/foreign/imaging';
import { markerPicture } from '../../phantom/foreign/markerPicture';
import { type SeededRandom, seededRandom } from '../../random';
import { type Patch, patchOf, patchOfRaster } from '../patch';
import { turnRaster } from '../turnRaster';
import { asShown } from './exposure';
import { adviceOn } from './advice';
import { leadLetterIn } from './leadLetters';
import { anyExposure } from './levels';

/** Letters as they are cut by steps, nine rows of seven: by other means than those they are looked for with. */
const cut: Record<string, string[]> = {
  R: ['11111..', '1111111', '11...11', '11...11', '111111.', '11111..', '11.111.', '11..111', '11...11'],
  L: ['11.....', '11.....', '11.....', '11.....', '11.....', '11.....', '11.....', '111111.', '111111.'],
  B: ['11111..', '111111.', '11...11', '11...11', '111111.', '111111.', '11...11', '1111111', '111111.'],
  P: ['11111..', '1111111', '11...11', '11...11', '111111.', '11111..', '11.....', '11.....', '11.....']
};

interface Laid {
  letter: string;
  mirrored: boolean;
  quarterTurns: number;
  leanDeg: number;
  heightPx: number;
  x: number;
  y: number;
}

/** How much lead lies at a point. */
function leadAt({ letter, mirrored, quarterTurns, leanDeg, heightPx, x: x0, y: y0 }: Laid) {
  const turn = quarterTurns * 90 + leanDeg;
  const [c, s] = [Math.cos((-turn * Math.PI) / 180), Math.sin((-turn * Math.PI) / 180)];
  return (x: number, y: number): number => {
    const [dx, dy] = [x - x0, y - y0];
    const [u, v] = [c * dx - s * dy, s * dx + c * dy];
    const column = Math.floor(((mirrored ? -u : u) / heightPx) * 9 + 3.5);
    const row = Math.floor((v / heightPx) * 9 + 4.5);
    return cut[letter][row]?.[column] === '1' ? 1 : 0;
  };
}

const [width, height] = [420, 460];
const transfers: Transfer[] = ['linear', 'logarithmic', 'curved', 'root'];

/** A limb with a letter of lead in a corner, by a detector of another make. */
function limbWith(laid: Laid, k: number) {
  const lead = leadAt(laid);
  return markerPicture(
    {
      transfer: transfers[k % 4],
      marker: 'none',
      width,
      height,
      imaging: { denseBright: true, counts: 12_000 },
      faults: { beam: (x, y) => Math.exp(-3 * lead(x, y)) }
    },
    seededRandom(4400 + k)
  ).raster;
}
const anyLaid = (random: SeededRandom, letter: string, mirrored: boolean): Laid => ({
  letter,
  mirrored,
  quarterTurns: Math.floor(4 * random.uniform()),
  leanDeg: 20 * random.uniform() - 10,
  heightPx: 26 + 14 * random.uniform(),
  x: random.uniform() < 0.5 ? 40 : width - 40,
  y: random.uniform() < 0.5 ? 40 : height - 40
});
const read = (laid: Laid, k: number) => leadLetterIn(patchOfRaster(asShown(limbWith(laid, k))));

describe('a letter of lead', () => {
  it('is read as it lies: turned, leaning or mirrored, and never as the other one or the other way round', () => {
    let right = 0;
    for (let k = 0; k < 12; k++) {
      const letter = k % 2 === 0 ? 'R' : 'L';
      const laid = anyLaid(seededRandom(k), letter, k % 3 === 0);
      const found = read(laid, k);
      if (!found) continue;
      expect([found.letter, found.mirrored]).toEqual([letter, laid.mirrored]);
      right++;
    }
    expect(right).toBeGreaterThanOrEqual(9);
  });
  it('that is another one is not read', () => {
    for (const [k, letter] of ['B', 'P', 'B', 'P'].entries())
      expect(read(anyLaid(seededRandom(60 + k), letter, k > 1), k)).toBeNull();
  });
  it('is not seen where none lies, nor in one grey', () => {
    for (let k = 0; k < 6; k++) {
      const { raster } = markerPicture(
        {
          transfer: transfers[k % 4],
          marker: 'none',
          neighbours: 2,
          only: 'screw from the side',
          width,
          height
        },
        seededRandom(5200 + k)
      );
      expect(leadLetterIn(patchOfRaster(asShown(raster)))).toBeNull();
    }
    const flat: Patch = patchOf(new Uint8Array(10_000).fill(40), { width: 100, height: 100 });
    expect(leadLetterIn(flat)).toBeNull();
  });
});

describe('advice by the letter of lead', () => {
  const upright = { quarterTurns: 0, mirrored: false } as const;
  const laid: Laid = {
    letter: 'R',
    mirrored: false,
    quarterTurns: 0,
    leanDeg: 4,
    heightPx: 34,
    x: 40,
    y: 44
  };
  const kinds = (raster: ReturnType<typeof limbWith>, side: 'left' | 'right' | null, mirrored = false) =>
    adviceOn(raster, {
      norm: anyExposure,
      side: { side, seen: { ...upright, mirrored } }
    }).map(({ kind }) => kind);

  it('says when the letter names another side than the one it is taken for', () => {
    const raster = limbWith(laid, 1);
    expect(kinds(raster, 'left')).toContain('other side');
    expect(kinds(raster, 'right')).toEqual([]);
    expect(kinds(raster, null)).toEqual([]);
  });
  it('says when it reads mirrored as the take is seen, and not when a mirrored take is mirrored back', () => {
    const raster = limbWith({ ...laid, mirrored: true }, 1);
    expect(kinds(raster, 'right')).toContain('turned');
    expect(kinds(raster, 'right', true)).toEqual([]);
    // What an earlier take of the same view tells already is not told again.
    const earlier = limbWith(laid, 1);
    const againstIt = adviceOn(turnRaster(earlier, { quarterTurns: 0, mirrored: true }), {
      norm: anyExposure,
      earlier,
      side: { side: 'right', seen: upright }
    });
    expect(againstIt.filter(({ kind }) => kind === 'turned')).toHaveLength(1);
  });
});

import { describe, expect, it } from 'vitest';
import { markerPicture } from '../../phantom/foreign/markerPicture';
import { type WrittenBox, write } from '../../phantom/lettering';
import { eweWithLamb, joint } from '../../phantom/ultrasound/anatomies';
import { sectorLoop } from '../../phantom/ultrasound/sector';
import { seededRandom } from '../../random';
import type { Raster } from '../raster';
import { turnRaster } from '../turnRaster';
import { type LetteringBox, findLettering } from './findLettering';
import { type Plane, planeOf } from './plane';
import { inkOf } from './strokes';

const covered = (boxes: readonly LetteringBox[], { x, y, width, height }: WrittenBox): boolean =>
  boxes.some(
    (box) =>
      x >= box.left && y >= box.top && x + width <= box.left + box.width && y + height <= box.top + box.height
  );
const transfers = ['linear', 'logarithmic', 'curved', 'root'] as const;
/** Somebody's wrist or thigh by some maker's detector, with metal beside it and no lead letter. */
function take(seed: number): Raster {
  for (let i = 0; ; i++) {
    const random = seededRandom(1000 * i + seed);
    const { raster, neighbours } = markerPicture(
      {
        transfer: transfers[seed % 4],
        marker: seed % 3 ? 'ball' : 'none',
        neighbours: 2,
        width: 420,
        height: 460
      },
      random
    );
    if (!neighbours.includes('letter')) return raster;
  }
}
function mostOf({ data }: Raster): number {
  let most = 0;
  for (const value of data) most = Math.max(most, value);
  return most;
}

describe('writing burned into pictures', () => {
  it('is found over speckle that moves, every letter of it', () => {
    const { frames, written } = sectorLoop({
      anatomy: eweWithLamb(3),
      seed: 4,
      frames: 5,
      framesPerSecond: 20,
      depthMm: 90,
      burnedIn: ['OYSTERGAARD FENNA', 'EWE 4471']
    });
    const boxes = findLettering(frames);
    expect(written.filter((letter) => !covered(boxes, letter)).map(({ letter }) => letter)).toEqual([]);
    // Nor is the whole picture taken for writing.
    const area = boxes.reduce((sum, { width, height }) => sum + width * height, 0);
    expect(area).toBeLessThan(0.12 * 640 * 480);
  });

  it.each(['bright', 'dark'] as const)('%s, in small and large letters, over bones and metal', (shade) => {
    let [all, found] = [0, 0];
    for (let seed = 0; seed < 4; seed++) {
      const raster = take(seed);
      const random = seededRandom(50 + seed);
      const dotPx = 1 + (seed % 4);
      const text = ['DUNMALLOW CORIN', '17.12.1958 M', 'QS-1040 VAEL'][seed % 3].slice(
        0,
        Math.floor(400 / (6 * dotPx))
      );
      const y = Math.floor(random.uniform() * (raster.height - 9 * dotPx));
      const letters = write(raster.data, raster.width, raster.height, text, {
        x: 8,
        y,
        dotPx,
        value: shade === 'bright' ? mostOf(raster) : 0
      });
      // Where the ground is as bright or dark as the writing nobody could read it.
      const seen = letters.filter((letter) => stands(raster, letter));
      const boxes = findLettering([raster]);
      all += seen.length;
      found += seen.filter((letter) => covered(boxes, letter)).length;
    }
    expect(all).toBeGreaterThan(12);
    expect(found / all).toBeGreaterThan(0.9);
  });

  it('is found turned by a quarter, and said to read so', () => {
    const raster = { ...take(5), bitsStored: 16 } as Raster;
    const letters = write(raster.data, raster.width, raster.height, 'BROUWER ELODIE', {
      x: 20,
      y: 20,
      dotPx: 2,
      value: mostOf(raster)
    });
    const upright = findLettering([raster]).filter(({ reads }) => reads === 'along');
    expect(letters.filter((letter) => covered(upright, letter)).length).toBeGreaterThan(11);
    const boxes = findLettering([turnRaster(raster, { quarterTurns: 1, mirrored: false })]);
    const own = boxes.filter(({ reads }) => reads === 'up or down');
    expect(own.length).toBeGreaterThan(0);
    // A quarter clockwise: what was at the top lies at the right.
    const { left, width, confidence } = own[0];
    expect(left + width).toBeGreaterThan(raster.height - 40);
    expect(confidence).toBeGreaterThan(0.9);
  });

  it('is found dark and thin over the grain of a light picture', () => {
    let [all, found] = [0, 0];
    for (let seed = 0; seed < 3; seed++) {
      const random = seededRandom(300 + seed);
      const [width, height] = [360, 260];
      const data = Uint8Array.from({ length: width * height }, () => 170 + 16 * random.normal());
      const raster: Raster = { width, height, data, channels: 1, bitsStored: 8, offset: 0 };
      const letters = write(data, width, height, 'OYSTERGAARD FENNA', {
        x: 30,
        y: 60 + 50 * seed,
        dotPx: 2,
        value: 90
      });
      const boxes = findLettering([raster]);
      all += letters.length;
      found += letters.filter((letter) => covered(boxes, letter)).length;
    }
    expect(found / all).toBeGreaterThan(0.95);
  });

  it('is found by its colour alone where it is as bright as what it lies over', () => {
    const random = seededRandom(9);
    const [width, height] = [320, 200];
    const grey = Uint8Array.from({ length: width * height }, (_, i) =>
      Math.max(0, Math.min(255, 255 * (Math.floor(((i % width) + 2 * random.normal()) / 6) % 2)))
    );
    const ink = new Uint8Array(width * height);
    const letters = write(ink, width, height, 'VAEL 17.12.1958', { x: 20, y: 80, dotPx: 2, value: 1 });
    const data = Uint8Array.from({ length: 3 * width * height }, (_, i) => {
      const at = Math.floor(i / 3);
      return ink[at] === 0 ? grey[at] : [255, 255, 0][i % 3];
    });
    const boxes = findLettering([{ width, height, data, channels: 3, bitsStored: 8, offset: 0 }]);
    expect(letters.filter((letter) => !covered(boxes, letter)).map(({ letter }) => letter)).toEqual([]);
  });

  it('is seldom seen where there is none', () => {
    const clean = [
      ...Array.from({ length: 4 }, (_, i) => [take(100 + i)]),
      ...[1].map(
        (seed) =>
          sectorLoop({ anatomy: joint(seed), seed, frames: 2, framesPerSecond: 20, depthMm: 70 }).frames
      )
    ];
    const wrong = clean.filter((frames) => findLettering(frames).length > 0).length;
    expect(wrong).toBeLessThanOrEqual(1);
  });

  it('is not told from one letter, and asks for frames of one size', () => {
    const raster = take(7);
    write(raster.data, raster.width, raster.height, 'R', { x: 30, y: 30, dotPx: 3, value: mostOf(raster) });
    expect(findLettering([raster])).toEqual([]);
    expect(() => findLettering([])).toThrow(RangeError);
    expect(() => findLettering([raster, { ...raster, width: 10, height: 10 }])).toThrow('one size');
  });
});

/** Whether a letter's own field has any contrast to read it by. */
function stands(raster: Raster, letter: WrittenBox): boolean {
  let [low, high] = [Infinity, -Infinity];
  for (let y = letter.y; y < letter.y + letter.height; y++)
    for (let x = letter.x; x < letter.x + letter.width; x++) {
      const value = raster.data[y * raster.width + x];
      [low, high] = [Math.min(low, value), Math.max(high, value)];
    }
  return high - low > 0.25 * mostOf(raster);
}

it('ink is what stands above everything as wide as nine pixels, at the rim too', () => {
  const random = seededRandom(3);
  const [width, height] = [31, 23];
  const plane: Plane = planeOf(
    Float32Array.from({ length: width * height }, () => Math.floor(20 * random.uniform())),
    width,
    height
  );
  const window = (data: ArrayLike<number>, x: number, y: number, of: (...values: number[]) => number) => {
    const values = [];
    for (let v = Math.max(0, y - 4); v <= Math.min(height - 1, y + 4); v++)
      for (let u = Math.max(0, x - 4); u <= Math.min(width - 1, x + 4); u++) values.push(data[v * width + u]);
    return of(...values);
  };
  const each = (of: (x: number, y: number) => number) =>
    Array.from({ length: width * height }, (_, i) => of(i % width, Math.floor(i / width)));
  const least = each((x, y) => window(plane.data, x, y, Math.min));
  const opened = each((x, y) => window(least, x, y, Math.max));
  expect([...inkOf(plane).data]).toEqual(opened.map((value, i) => plane.data[i] - value));
});

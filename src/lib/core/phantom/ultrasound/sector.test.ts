import { describe, expect, it } from 'vitest';
import { write } from '../lettering';
import { eweWithLamb } from './anatomies';
import { sectorLoop } from './sector';

const plain = { seed: 2, frames: 2, framesPerSecond: 20, depthMm: 100 };

describe('a sector scan', () => {
  it('has speckle with the spread of Rayleigh’s distribution', () => {
    const { frames } = sectorLoop({ ...plain, frames: 1, anatomy: () => ({ echo: 0.3, loss: 0 }) });
    // Undo the compression, then mean over spread of the amplitude: sqrt(pi / (4 - pi)) = 1.913.
    const amplitudes: number[] = [];
    for (let y = 120; y < 380; y += 3)
      for (let x = 260; x < 380; x += 3)
        amplitudes.push(10 ** ((frames[0].data[y * 640 + x] / 255 - 0.84) / 0.42));
    const mean = amplitudes.reduce((a, b) => a + b) / amplitudes.length;
    const spread = Math.sqrt(amplitudes.reduce((a, b) => a + (b - mean) ** 2, 0) / amplitudes.length);
    expect(mean / spread).toBeGreaterThan(1.6);
    expect(mean / spread).toBeLessThan(2.4);
  });
  it('is dark behind bone and stays dark in fluid', () => {
    const { frames } = sectorLoop({
      ...plain,
      frames: 1,
      anatomy: (x, depth) =>
        depth > 40 && depth < 42 && x < 0 ? { echo: 2, loss: 3 } : { echo: x > 20 ? 0.01 : 0.4, loss: 0 }
    });
    const mean = (cx: number, cy: number) => {
      let sum = 0;
      for (let y = cy - 10; y < cy + 10; y++)
        for (let x = cx - 10; x < cx + 10; x++) sum += frames[0].data[y * 640 + x];
      return sum / 400;
    };
    expect(mean(290, 330)).toBeLessThan(30);
    expect(mean(345, 330)).toBeGreaterThan(120);
    expect(mean(460, 330)).toBeLessThan(45);
  });
  it('moves from frame to frame, and is the same bytes from the same seed', () => {
    const wish = { ...plain, frames: 3, anatomy: eweWithLamb(1) };
    const [one, again] = [sectorLoop(wish), sectorLoop(wish)];
    expect(one.frames.map((frame) => [...frame.data.subarray(150_000, 151_000)])).toEqual(
      again.frames.map((frame) => [...frame.data.subarray(150_000, 151_000)])
    );
    let changed = 0;
    for (let i = 0; i < 640 * 480; i++)
      if (Math.abs(one.frames[0].data[i] - one.frames[2].data[i]) > 20) changed++;
    expect(changed).toBeGreaterThan(5000);
  });
  it('says where each burned-in letter stands, and nothing bright of it lies outside', () => {
    const burnedIn = ['FENNA O. 4471', 'EWE'];
    const wish = { ...plain, frames: 1, anatomy: () => ({ echo: 0.001, loss: 0 }) };
    const [bare, lettered] = [sectorLoop(wish), sectorLoop({ ...wish, burnedIn })];
    expect(lettered.written.map((box) => box.letter).join('')).toBe('FENNAO.4471EWE');
    for (let i = 0; i < 640 * 480; i++) {
      if (bare.frames[0].data[i] === lettered.frames[0].data[i]) continue;
      const [x, y] = [i % 640, Math.floor(i / 640)];
      expect(
        lettered.written.some(
          (box) => x >= box.x && x < box.x + box.width && y >= box.y && y < box.y + box.height
        )
      ).toBe(true);
    }
  });
});

it('letters that run over the edge are cut there and harm nothing else', () => {
  const data = new Uint8Array(20 * 10);
  write(data, 20, 10, 'WW', { x: 10, y: 4, dotPx: 2, value: 9 });
  expect(data.length).toBe(200);
  expect(data.slice(0, 80).every((value) => value === 0)).toBe(true);
});

import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, afterEach, describe, expect, it } from 'vitest';
import { coarseInThread } from './threads';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-threads-'));
const open: number[] = [];
afterEach(() => open.splice(0).forEach((each) => fs.closeSync(each)));
afterAll(() => {
  fs.rmSync(folder, { recursive: true });
});

/** A file with these bytes, open for reading. */
function opened(bytes: Uint8Array): number {
  const file = path.join(folder, `${open.length}`);
  fs.writeFileSync(file, bytes);
  const descriptor = fs.openSync(file, 'r');
  open.push(descriptor);
  return descriptor;
}

describe('the sizes of an exposure', () => {
  it('are halved one from the other, and the full one is none of them', async () => {
    // Rows that count up in fives, so that the mean of each two by two is known.
    const [width, height] = [801, 402];
    const samples = Uint16Array.from({ length: width * height }, (_, i) => 5 * (i % width));
    const descriptor = opened(new Uint8Array(samples.buffer));
    const levels = await coarseInThread({ descriptor, width, height, bitsStored: 12 });
    expect(levels.map(({ frame, level, width: w, height: h }) => [frame, level, w, h])).toEqual([
      [0, 1, 401, 201],
      [0, 2, 201, 101],
      [0, 3, 101, 51]
    ]);
    const [first, second] = levels.map(({ bytes }) => new Uint16Array(Uint8Array.from(bytes).buffer));
    // The mean of 10 x and 10 x + 5, rounded; at the odd edge the last one alone.
    expect([...first.subarray(0, 3), first[400], first[401 + 7]]).toEqual([3, 13, 23, 4000, 73]);
    expect([...second.subarray(0, 2)]).toEqual([8, 28]);
    expect(levels.every(({ encoding }) => encoding === 'identity')).toBe(true);
  });

  it('have a byte a sample where the picture has', async () => {
    const descriptor = opened(Uint8Array.from({ length: 400 * 300 }, (_, i) => i % 200));
    const [first] = await coarseInThread({ descriptor, width: 400, height: 300, bitsStored: 8 });
    expect(first.bytes).toHaveLength(200 * 150);
    expect([...first.bytes.subarray(0, 2), first.bytes[99]]).toEqual([1, 3, 199]);
  });

  it('are not made up where the file is shorter than the picture', async () => {
    const wish = { descriptor: opened(new Uint8Array(1000)), width: 400, height: 300, bitsStored: 8 };
    await expect(coarseInThread(wish)).rejects.toThrow('shorter than its picture');
  });
});

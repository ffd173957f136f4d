import sharp from 'sharp';
import { seededRandom } from '../src/lib/core/random';

export const sliceCount = 24;
const side = 320;
/** What the system that exported them stamped into every one. */
const notice = 'EXPORTED FOR VIEWING ONLY  TEAL HARBOUR';

/**
 * Slices of a jaw from below upwards, as a viewer saves them: numbered JPEG pictures with a notice stamped along the edge.
 * The arch, its teeth and the neck's bone come and go as the slice climbs.
 */
export async function jawSlices(): Promise<{ name: string; bytes: Buffer }[]> {
  return Promise.all(
    Array.from({ length: sliceCount }, async (_, i) => ({
      name: `jaw ${i + 1}.jpg`,
      bytes: await sharp(slice(i / (sliceCount - 1), i), { raw: { width: side, height: side, channels: 1 } })
        .composite([{ input: stamp(), left: 0, top: side - 22 }])
        .jpeg({ quality: 88 })
        .toBuffer()
    }))
  );
}

const stamp = (): Buffer =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="22"><rect width="${side}" height="22" fill="#222"/><text x="${side / 2}" y="15" text-anchor="middle" font-family="Atkinson Hyperlegible Next, sans-serif" font-size="12" fill="#eee">${notice}</text></svg>`
  );

/** How far a tooth reaches at a height: nothing below its tip and above its crown. */
const toothAt = (height: number, tip: number): number =>
  height < tip ? 0 : Math.min(1, 0.45 + 0.75 * ((height - tip) / (1 - tip)));

function slice(height: number, index: number): Buffer {
  const random = seededRandom(900 + index);
  const data = Buffer.alloc(side * side);
  const middle = { x: side / 2, y: side * 0.47 };
  const teeth = Array.from({ length: 14 }, (_, i) => {
    const along = (i - 6.5) / 6.5;
    return { at: onArch(along), radius: 6 + 5 * Math.abs(along), tip: 0.3 + 0.16 * ((i * 7) % 5) * 0.2 };
  });
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const [u, v] = [(x - middle.x) / (side * 0.42), (y - middle.y) / (side * 0.44)];
      const inside = u * u + v * v < 1;
      let grey = inside ? 78 + 8 * Math.sin(x / 9 + index) * Math.sin(y / 11) : 6;
      // Air behind the tongue.
      if (Math.hypot(x - middle.x, (y - side * 0.62) * 1.6) < 16 - 5 * height) grey = 12;
      const bone = Math.abs(offArch(x, y));
      const wall = 13 - 4 * height;
      if (inside && height < 0.72 && bone < wall)
        grey = bone > wall - 3.5 ? 190 : 128 + 14 * Math.sin(x * 0.9) * Math.sin(y * 0.8);
      for (const { at, radius, tip } of teeth) {
        const reach = radius * toothAt(height, tip);
        const away = Math.hypot(x - at.x, y - at.y);
        if (away < reach)
          grey = away > reach - 2.2 && height > 0.66 ? 250 : away < 1.6 && height < 0.85 ? 120 : 205;
      }
      const spine = Math.hypot(x - middle.x, y - side * 0.82);
      if (spine < 30) grey = spine < 9 ? 70 : spine > 26 ? 200 : 150;
      data[y * side + x] = Math.max(0, Math.min(255, grey + 7 * random.normal()));
    }
  return data;
}

/** The dental arch as a parabola open to the back. */
const onArch = (along: number) => ({
  x: side / 2 + along * side * 0.27,
  y: side * 0.2 + along * along * side * 0.36
});
const offArch = (x: number, y: number): number => {
  const along = (x - side / 2) / (side * 0.27);
  const slope = (2 * along * 0.36) / 0.27;
  return (y - onArch(along).y) / Math.hypot(1, slope);
};

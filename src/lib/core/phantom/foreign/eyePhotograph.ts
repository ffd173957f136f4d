import type { SeededRandom } from '../../random';
import type { Raster } from '../../raster/raster';

export interface EyePhotograph {
  raster: Raster;
  limbus: { x: number; y: number; radiusPx: number };
  pupil: { x: number; y: number; radiusPx: number };
}

/**
 * An eye that looks at the camera, drawn by plain formulas: any size and place, irises from dark brown to light grey,
 * pupils a little aside, lamps mirrored in them, lids and lashes of any height, soft or sharp, 8 bit. Nothing of the
 * simulated instrument is in it.
 * @param eye false: only skin and lids, as when the eye is closed
 */
export function eyePhotograph(random: SeededRandom, { eye = true } = {}): EyePhotograph {
  const width = Math.round(480 + 1100 * random.uniform());
  const height = Math.round(width * (0.66 + 0.3 * random.uniform()));
  const shorter = Math.min(width, height);
  const between = (low: number, high: number) => low + (high - low) * random.uniform();
  const radius = shorter * between(0.17, 0.42);
  const middle = {
    x: width / 2 + shorter * between(-0.08, 0.08),
    y: height / 2 + shorter * between(-0.06, 0.06)
  };
  const open = radius * between(0.18, 0.6);
  const pupil = {
    x: middle.x + radius * between(-0.06, 0.06),
    y: middle.y + radius * between(-0.06, 0.06),
    radiusPx: open
  };
  const white = between(150, 215);
  const iris = between(45, 120);
  const dark = between(8, 25);
  const skin = between(95, 180);
  const soft = radius * between(0.015, 0.07);
  const upper = middle.y - radius * between(0.55, 1.1);
  const lower = middle.y + radius * between(0.75, 1.15);
  const bow = between(0.12, 0.35) / radius;
  const lamps = Array.from({ length: Math.round(between(1, 6)) }, () => ({
    x: pupil.x + open * between(-0.8, 0.8),
    y: pupil.y + open * between(-0.8, 0.8),
    radiusPx: radius * between(0.02, 0.07)
  }));
  const spokes = Math.round(between(30, 90));
  const shade = between(-0.12, 0.12);
  const noise = between(1, 6);
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const away = Math.hypot(x - middle.x, y - middle.y);
      const lid = Math.max(
        upper + bow * (x - middle.x) ** 2 * 0.5 - y,
        y - (lower - bow * (x - middle.x) ** 2 * 0.4)
      );
      const angle = Math.atan2(y - middle.y, x - middle.x);
      const across = Math.hypot(x - pupil.x, y - pupil.y);
      const coloured =
        iris * (1 + 0.14 * Math.sin(spokes * angle + 5 * Math.sin(3 * angle)) + 0.1 * Math.sin(away / 9));
      const inPupil = 1 / (1 + Math.exp((across - open) / (0.35 * soft)));
      const inIris = 1 / (1 + Math.exp((away - radius) / soft));
      const ball = (dark * inPupil + coloured * (1 - inPupil)) * inIris + white * (1 - inIris);
      const lamp = lamps.some((l) => Math.hypot(x - l.x, y - l.y) < l.radiusPx) ? 245 : 0;
      const cover = eye ? 1 / (1 + Math.exp(-lid / (0.02 * radius))) : 1;
      const grain = 14 * Math.sin(x / 23 + 3 * Math.sin(y / 31)) * Math.sin(y / 17);
      // Where lids meet the ball they throw a shadow.
      const shadow = 1 - 0.45 * Math.exp(-((lid / (0.08 * radius)) ** 2));
      const value = Math.max(ball, lamp) * (1 - cover) + (skin + grain) * cover;
      data[y * width + x] = Math.max(
        0,
        Math.min(255, value * shadow * (1 + shade * ((2 * x) / width - 1)) + noise * random.normal())
      );
    }
  return {
    raster: { width, height, channels: 1, bitsStored: 8, offset: 0, data },
    limbus: { ...middle, radiusPx: radius },
    pupil
  };
}

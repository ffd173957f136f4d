import type { Raster } from '../../raster/raster';
import { type WrittenBox, write } from '../lettering';
import { seededRandom } from '../../random';
import { gaussianByMeans } from '../xray/smooth';

/** How strongly tissue throws sound back (0 to 1), and how much of it is swallowed on the way (per mm). */
export interface Tissue {
  echo: number;
  loss: number;
}

/** Tissue at a place of the scan plane (mm, x to the right, depth down) and a time (seconds). */
export type Anatomy = (xMm: number, depthMm: number, seconds: number) => Tissue;

export interface SectorWish {
  anatomy: Anatomy;
  seed: number;
  frames: number;
  framesPerSecond: number;
  depthMm: number;
  /** Words the device burns into its pictures, line by line; often somebody's name. */
  burnedIn?: string[];
}

export interface Loop {
  frames: Raster[];
  secondsPerFrame: number;
  /** Millimetres a pixel, the same both ways. */
  mmPerPixel: number;
  written: WrittenBox[];
}

const width = 640;
const height = 480;
const halfAngle = 0.62;
const probeRadiusMm = 12;
const lines = 160;
const samples = 420;

/**
 * A curved probe's sector scan, 8 bit: each line's echoes from tissue, weakened by what lies before it, with speckle
 * (complex Gaussian scatterers through a pulse, so its amplitude has Rayleigh's distribution; Burckhardt, 1978), then
 * compressed and drawn as a sector. Speckle moves on slowly from frame to frame.
 */
export function sectorLoop(wish: SectorWish): Loop {
  const random = seededRandom(wish.seed);
  const scatter = [0, 1, 2, 3].map(() => speckleField(random));
  const mmPerPixel = (wish.depthMm + probeRadiusMm * (1 - Math.cos(halfAngle))) / (height - 20);
  const map = sectorMap(mmPerPixel, wish.depthMm);
  const frames: Raster[] = [];
  let written: WrittenBox[] = [];
  for (let f = 0; f < wish.frames; f++) {
    const seconds = f / wish.framesPerSecond;
    const blend = (f * 0.09) % (2 * Math.PI);
    const polar = new Float32Array(lines * samples);
    for (let line = 0; line < lines; line++) {
      const angle = (line / (lines - 1) - 0.5) * 2 * halfAngle;
      let through = 1;
      for (let s = 0; s < samples; s++) {
        const r = probeRadiusMm + (s / samples) * wish.depthMm;
        const x = r * Math.sin(angle);
        const depth = r * Math.cos(angle) - probeRadiusMm;
        const { echo, loss } = wish.anatomy(x, depth, seconds);
        const i = line * samples + s;
        const re = scatter[0][i] * Math.cos(blend) + scatter[1][i] * Math.sin(blend);
        const im = scatter[2][i] * Math.cos(blend) + scatter[3][i] * Math.sin(blend);
        polar[i] = echo * through * Math.hypot(re, im);
        through *= Math.exp((-loss * wish.depthMm) / samples);
      }
    }
    const data = new Uint8Array(width * height);
    for (let i = 0; i < data.length; i++) {
      if (map[2 * i] < 0) continue;
      const value = sampled(polar, map[2 * i], map[2 * i + 1]);
      const level = 255 * (0.42 * Math.log10(Math.max(1e-4, value)) + 0.84);
      data[i] = Math.max(4, Math.min(255, level));
    }
    written = (wish.burnedIn ?? []).flatMap((text, line) =>
      write(data, width, height, text, { x: 12, y: 10 + line * 18, dotPx: 2, value: 232 })
    );
    ruler(data, mmPerPixel, wish.depthMm);
    frames.push({ width, height, channels: 1, bitsStored: 8, offset: 0, data });
  }
  return { frames, secondsPerFrame: 1 / wish.framesPerSecond, mmPerPixel, written };
}

/** Random scatterers through the pulse: short along the line, wider across it; standard deviation 1. */
function speckleField(random: { normal(): number }): Float32Array {
  const field = Float32Array.from({ length: lines * samples }, () => random.normal());
  gaussianByMeans(field, samples, lines, 1.15);
  const spread = Math.sqrt(field.reduce((sum, v) => sum + v * v, 0) / field.length);
  for (let i = 0; i < field.length; i++) field[i] /= spread * Math.SQRT2;
  return field;
}

/** For each pixel its place among lines and samples, or -1 outside the sector. */
function sectorMap(mmPerPixel: number, depthMm: number): Float32Array {
  const map = new Float32Array(2 * width * height);
  const top = 10 - (probeRadiusMm * Math.cos(halfAngle)) / mmPerPixel;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const dx = (x + 0.5 - width / 2) * mmPerPixel;
      const dy = (y + 0.5 - top) * mmPerPixel;
      const r = Math.hypot(dx, dy) - probeRadiusMm;
      const angle = Math.atan2(dx, dy);
      const inside = r >= 0 && r < depthMm && Math.abs(angle) <= halfAngle;
      const i = 2 * (y * width + x);
      map[i] = inside ? (angle / halfAngle / 2 + 0.5) * (lines - 1) : -1;
      map[i + 1] = (r / depthMm) * (samples - 1);
    }
  }
  return map;
}

function sampled(polar: Float32Array, line: number, sample: number): number {
  const l = Math.min(lines - 2, Math.floor(line));
  const s = Math.min(samples - 2, Math.floor(sample));
  const [u, v] = [line - l, sample - s];
  const at = l * samples + s;
  const a = polar[at] + (polar[at + 1] - polar[at]) * v;
  const b = polar[at + samples] + (polar[at + samples + 1] - polar[at + samples]) * v;
  return a + (b - a) * u;
}

/** Centimetre marks at the side. */
function ruler(data: Uint8Array, mmPerPixel: number, depthMm: number): void {
  for (let cm = 0; cm * 10 <= depthMm; cm++) {
    const y = Math.round(10 + (cm * 10) / mmPerPixel);
    const reach = cm % 5 === 0 ? 12 : 6;
    for (let x = width - 14; x < width - 14 + reach && y < height; x++) data[y * width + x] = 200;
  }
}

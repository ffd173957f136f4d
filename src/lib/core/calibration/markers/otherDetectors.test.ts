import { describe, expect, it } from 'vitest';
import type { Transfer } from '../../phantom/foreign/imaging';
import { type MarkerWish, markerPicture } from '../../phantom/foreign/markerPicture';
import { seededRandom } from '../../random';
import { patchOfRaster } from '../../raster/patch';
import { findBars } from './findBars';
import { type RoundMarker, findRound } from './findRound';
import { findRuler } from './findRuler';
import type { Found } from './judged';

// Pictures by other means than the product's own simulator: flat drawings, imaged by detectors of any make.
const transfers: Transfer[] = ['linear', 'logarithmic', 'curved', 'root'];

const pictureOf = (wish: Omit<MarkerWish, 'transfer'>, k: number) =>
  markerPicture({ transfer: transfers[k % 4], width: 460, height: 500, ...wish }, seededRandom(31_000 + k));

const allOf = (found: Found<RoundMarker>) =>
  found.outcome === 'found' ? [found.best, ...found.others] : found.others;

describe.each(['ball', 'disc'] as const)('a %s in a picture of another make', (kind) => {
  it('is found, near to its size, and inside its own ±', () => {
    const count = 16;
    const tally = { found: 0, near: 0, within: 0, held: 0, clear: 0 };
    for (let k = 0; k < count; k++) {
      const { raster, marker } = pictureOf({ marker: kind }, k);
      const found = findRound(patchOfRaster(raster), { kind });
      const hit = allOf(found).find(
        ({ center, diameterPx }) =>
          Math.hypot(center.x - marker!.center.x, center.y - marker!.center.y) < 0.25 * marker!.sizePx &&
          Math.abs(diameterPx - marker!.sizePx) < 0.3 * marker!.sizePx
      );
      if (!hit) continue;
      if (found.outcome === 'found' && found.best === hit) tally.found++;
      if (hit.seen < 0.93) continue;
      const off = Math.abs(hit.diameterPx - marker!.sizePx);
      tally.clear++;
      if (off < 0.3) tally.near++;
      if (off < 0.6) tally.within++;
      if (off < 2 * hit.uncertaintyPx) tally.held++;
    }
    expect(tally.found).toBeGreaterThanOrEqual(0.85 * count);
    expect(tally.near).toBeGreaterThanOrEqual((kind === 'ball' ? 0.65 : 0.55) * tally.clear);
    expect(tally.within).toBeGreaterThanOrEqual(0.8 * tally.clear);
    expect(tally.held).toBeGreaterThanOrEqual(0.93 * tally.clear);
  });

  it('says how unsure its size is where no rays are scattered', () => {
    const count = 20;
    let seen = 0;
    let held = 0;
    for (let k = 0; k < count; k++) {
      const scatterless = { width: 260, height: 260, bare: k % 3 > 0, imaging: { scatter: 0 } };
      const { raster, marker } = pictureOf({ marker: kind, ...scatterless }, k);
      const hit = allOf(findRound(patchOfRaster(raster), { kind })).find(
        ({ center }) =>
          Math.hypot(center.x - marker!.center.x, center.y - marker!.center.y) < 0.25 * marker!.sizePx
      );
      if (!hit || hit.seen < 0.93) continue;
      seen++;
      if (Math.abs(hit.diameterPx - marker!.sizePx) < 2 * hit.uncertaintyPx) held++;
    }
    expect(seen).toBeGreaterThanOrEqual(0.8 * count);
    expect(held).toBeGreaterThanOrEqual(0.88 * seen);
  });

  it('is offered when metal hides a part of it, and never without a doubt', () => {
    const count = 10;
    let offered = 0;
    let found = 0;
    for (let k = 0; k < count; k++) {
      const { raster, marker } = pictureOf(
        { marker: kind, hidden: 'under metal', sizePx: 24 + 9 * k },
        800 + k
      );
      const search = findRound(patchOfRaster(raster), { kind });
      const hit = allOf(search).find(
        ({ center, diameterPx }) =>
          Math.hypot(center.x - marker!.center.x, center.y - marker!.center.y) < 0.25 * marker!.sizePx &&
          Math.abs(diameterPx / marker!.sizePx - 1) < 0.15
      );
      if (!hit) continue;
      offered++;
      expect(hit.doubts.length, `picture ${k}`).toBeGreaterThan(0);
      if (search.outcome === 'found' && search.best === hit) found++;
    }
    expect(offered).toBeGreaterThanOrEqual(0.8 * count);
    expect(found).toBeGreaterThanOrEqual(0.4 * count);
  });

  it('is not taken for something else beside it without a doubt being told', () => {
    let silently = 0;
    for (let k = 0; k < 4; k++) {
      const { raster, marker } = pictureOf({ marker: k % 2 ? kind : 'none', neighbours: 4 }, 100 + k);
      const found = findRound(patchOfRaster(raster), { kind });
      if (found.outcome !== 'found' || found.best.doubts.length > 0) continue;
      const { center } = found.best;
      const right =
        marker && Math.hypot(center.x - marker.center.x, center.y - marker.center.y) < 0.25 * marker.sizePx;
      if (!right) silently++;
    }
    expect(silently).toBe(0);
  });
});

it('holes of a plate, snaps, buttons and heads of screws are never taken for a ball without a doubt', () => {
  for (const [i, only] of (
    ['plate with holes', 'snap', 'screw from its head', 'finger bone', 'button'] as const
  ).entries())
    for (let k = 0; k < 2; k++) {
      const { raster } = pictureOf({ marker: 'none', neighbours: 1, only }, 300 + 10 * i + k);
      const found = findRound(patchOfRaster(raster), { kind: 'ball' });
      if (found.outcome === 'found') expect(found.best.doubts, `${only} ${k}`).not.toEqual([]);
    }
});

it('the metal of a scaled picture is found whether it is bright or dark, in 8 bits or in 16', () => {
  const made = (denseBright: boolean, bits: number, bitsStored: number) =>
    markerPicture(
      {
        transfer: 'logarithmic',
        marker: 'ball',
        sizePx: 40,
        imaging: { denseBright, bits, bitsStored, lift: 0, counts: 8000 }
      },
      seededRandom(77)
    );
  for (const picture of [made(true, 8, 8), made(false, 8, 8), made(true, 12, 16), made(false, 16, 16)]) {
    const found = findRound(patchOfRaster(picture.raster), { kind: 'ball' });
    expect(found.outcome).toBe('found');
    if (found.outcome === 'found') {
      expect(Math.abs(found.best.diameterPx - 40)).toBeLessThan(0.6);
      expect(found.best.bright).toBe(picture.imaging.denseBright);
    }
  }
});

it('a ruler is read with all of its lines, also on a spine, also in a large picture', () => {
  let whole = 0;
  const count = 3;
  for (let k = 0; k < count; k++) {
    const large = k === count - 1 ? { width: 1500, height: 1700 } : {};
    const { raster, marker } = pictureOf({ marker: 'ruler', sizePx: 9 + ((7 * k) % 24), ...large }, 400 + k);
    const found = findRuler(patchOfRaster(raster));
    if (found.outcome !== 'found') continue;
    expect(Math.abs(found.best.spacingPx / marker!.sizePx - 1), `picture ${k}`).toBeLessThan(0.02);
    if (found.best.places === marker!.lines) whole++;
  }
  expect(whole).toBeGreaterThanOrEqual(count - 1);
});

it('a bar is measured from end to end', () => {
  let held = 0;
  let seen = 0;
  const count = 6;
  for (let k = 0; k < count; k++) {
    const { raster, marker } = pictureOf({ marker: 'bar', sizePx: 50 + ((37 * k) % 150) }, 500 + k);
    const found = findBars(patchOfRaster(raster));
    if (found.outcome !== 'found') continue;
    seen++;
    if (Math.abs(found.best.lengthPx - marker!.sizePx) < 2 * found.best.uncertaintyPx) held++;
  }
  expect(seen).toBeGreaterThanOrEqual(0.65 * count);
  expect(held).toBeGreaterThanOrEqual(0.75 * seen);
});

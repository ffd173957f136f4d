import sharp, { type Sharp } from 'sharp';
import { edgeFollower, exactWay, followedFrom, quickWay } from '../src/lib/core/measurement/edge/follow';
import { findBars } from '../src/lib/core/calibration/markers/findBars';
import { findRound } from '../src/lib/core/calibration/markers/findRound';
import { findRuler } from '../src/lib/core/calibration/markers/findRuler';
import { anyImaging, imaged } from '../src/lib/core/phantom/foreign/imaging';
import { type TakeFault, faultsOf, takeOfAnyMake } from '../src/lib/core/phantom/foreign/takeFaults';
import { type MarkerPicture, markerPicture } from '../src/lib/core/phantom/foreign/markerPicture';
import { seededRandom } from '../src/lib/core/random';
import { ballScene } from '../src/lib/core/phantom/scenes/ballScene';
import { coarseSensor, coarseTake } from '../src/lib/core/phantom/scenes/toothTakes';
import { mouth } from '../src/lib/core/phantom/teeth/dentition';
import { ordinaryMouth } from '../src/lib/core/phantom/teeth/ordinaryMouth';
import { exposed } from '../src/lib/core/phantom/xray/detector';
import type { Faults } from '../src/lib/core/phantom/xray/faults';
import { adviceOn } from '../src/lib/core/raster/advice/advice';
import type { AdviceKind } from '../src/lib/core/raster/advice/adviceKind';
import { asShown, exposureOf } from '../src/lib/core/raster/advice/exposure';
import { anyExposure, intraoralNorm } from '../src/lib/core/raster/advice/levels';
import { shareOfUsual, usualDose } from '../src/lib/core/raster/advice/usualDose';
import { gaussian } from '../src/lib/core/raster/filters/gaussian';
import { localContrast } from '../src/lib/core/raster/filters/localContrast';
import { median as medianFilter } from '../src/lib/core/raster/filters/median';
import { unsharp } from '../src/lib/core/raster/filters/unsharp';
import { type Patch, patchOf, patchOfRaster, samplesOf } from '../src/lib/core/raster/patch';
import type { Point } from '../src/lib/core/raster/orientation';
import type { Raster } from '../src/lib/core/raster/raster';
import { fullMouth } from '../src/lib/core/tray/shipped/fullMouth';
import { type Row, median, times } from './report';

const width = 2500;
const height = 3000;
const rounds = 5;

/** A picture of 2500 x 3000 with a large round edge, waves and noise. */
function largeSamples(): Uint16Array {
  const random = seededRandom(7);
  const out = new Uint16Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      out[y * width + x] =
        20_000 +
        9000 * Math.sin(x / 190) * Math.cos(y / 230) +
        16_000 / (1 + Math.exp((Math.hypot(x - 1200, y - 1500) - 900) / 2)) +
        800 * random.normal();
  return out;
}

/** How often screws, chains, wires, letters, plates and other markers pass for a ruler or a bar. */
function takenWithoutDoubt(kind: 'ruler' | 'bar'): { taken: number; of: number } {
  const of = 120;
  let taken = 0;
  for (let k = 0; k < of; k++) {
    const transfer = (['linear', 'logarithmic', 'curved', 'root'] as const)[k % 4];
    const marker = k % 3 > 0 ? 'none' : 'ball';
    const { raster } = markerPicture({ transfer, marker, neighbours: 4 }, seededRandom(73_000 + k));
    const patch = patchOfRaster(raster);
    const search = kind === 'ruler' ? findRuler(patch) : findBars(patch);
    if (search.outcome === 'found' && search.best.doubts.length === 0) taken++;
  }
  return { taken, of };
}

/** Filters, marker search and edge following against sharp (libvips) and screen frames, in one run. */
export async function benchMeasuring(): Promise<Row[]> {
  const samples = largeSamples();
  const grey16 = () => sharp(samples, { raw: { width, height, channels: 1 } }).toColourspace('grey16');
  const eight = Uint8Array.from(samples, (value) => value >> 8);
  const grey8 = () => sharp(eight, { raw: { width, height, channels: 1 } });
  const theirs = async (image: Sharp) => image.raw({ depth: 'ushort' }).toBuffer();
  const ours = (of: (patch: Patch) => Patch) =>
    samplesOf(of(patchOf(samples, { width, height })), new Uint16Array(samples.length));
  const measured = async (work: () => unknown) => median(await times(rounds, work));
  const blurMs = await measured(() => theirs(grey16().blur(2)));
  const patch = patchOf(samples, { width, height });
  const smallPicture = markerPicture(
    {
      transfer: 'logarithmic',
      marker: 'ball',
      neighbours: 2,
      width: 600,
      height: 700,
      imaging: { bits: 14, bitsStored: 16 }
    },
    seededRandom(3)
  ).raster;
  const small = patchOfRaster(smallPicture);
  const smallImage = () =>
    sharp(smallPicture.data as Uint16Array, { raw: { width: 600, height: 700, channels: 1 } }).toColourspace(
      'grey16'
    );
  const follower = edgeFollower(patch);
  const from = followedFrom(follower, { x: 2100, y: 1500 });
  const to = { x: 1200, y: 2400 };
  const row = (name: string, oursMs: number, reference: string, referenceMs: number, limit: number): Row => ({
    name,
    oursMs,
    reference,
    referenceMs,
    limit
  });
  return [
    row(
      'Gaussian of 2 px, 2500x3000, 16 bit',
      await measured(() => ours((p) => gaussian(p, 2))),
      'sharp',
      blurMs,
      Infinity
    ),
    row(
      'Median of 3 x 3',
      await measured(() => ours((p) => medianFilter(p, 1))),
      'sharp',
      await measured(() => theirs(grey16().median(3))),
      2
    ),
    row(
      'Sharpen over 2 px',
      await measured(() => ours((p) => unsharp(p, { sigmaPx: 2, amount: 1, threshold: 0 }))),
      'sharp',
      await measured(() => theirs(grey16().sharpen({ sigma: 2 }))),
      2
    ),
    row(
      'Local contrast (CLAHE)',
      await measured(() => ours((p) => localContrast(p, { tiles: 16, clip: 3, low: 0, high: 65_535 }))),
      'sharp, 8 bit only',
      median(await times(2, () => grey8().clahe({ width: 157, height: 157, maxSlope: 3 }).raw().toBuffer())),
      2
    ),
    row(
      'Marker search, size unknown',
      await measured(() => findRound(patch, { kind: 'ball' })),
      'a Gaussian of it in sharp',
      blurMs,
      4
    ),
    row(
      'Marker search, size known',
      await measured(() => findRound(patch, { kind: 'ball', diameterPx: { least: 60, most: 120 } })),
      'a Gaussian of it in sharp',
      blurMs,
      4
    ),
    row(
      'Marker search, 600x700, with bone and metal',
      await measured(() => findRound(small, { kind: 'ball' })),
      'a Gaussian of it in sharp',
      await measured(() => theirs(smallImage().blur(2))),
      4
    ),
    row(
      'Edge following, first answer',
      await measured(() => quickWay(follower, from, to)),
      'one screen frame',
      1000 / 60,
      1
    ),
    row(
      'Edge following, exact, 1270 px',
      await measured(() => exactWay(follower, from, to)),
      'a tenth of a second',
      100,
      1
    )
  ];
}

/** One line of the truth table: what share of cases was right, and what share must be. */
export interface Truth {
  name: string;
  right: number;
  of: number;
  must: number;
}

export function printTruth({ name, right, of, must }: Truth): void {
  const share = right / of;
  console.log(
    `${name}\n  ${right} of ${of}, ${(100 * share).toFixed(1)} % (at least ${(100 * must).toFixed(0)} %: ${share >= must ? 'reached' : 'NOT reached'})`
  );
}

/** Pictures by detectors of other makes than the simulator's own, family by family. */
export function truthOfOtherMakes(): Truth[] {
  const out: Truth[] = [];
  for (const kind of ['ball', 'disc'] as const)
    for (const transfer of ['linear', 'logarithmic', 'curved', 'root'] as const)
      out.push(
        ...sizesOf(`${kind}, ${transfer}`, 40, kind, (k) =>
          markerPicture({ transfer, marker: kind }, seededRandom(50_000 + k))
        ),
        // Things that lie on the detector, thin parts: hardly any rays come from elsewhere.
        ...sizesOf(`${kind}, ${transfer}, no scattered rays`, 24, kind, (k) =>
          markerPicture(
            {
              transfer,
              marker: kind,
              width: 260,
              height: 260,
              bare: k % 2 === 0,
              imaging: { scatter: 0 }
            },
            seededRandom(55_000 + k)
          )
        )
      );
  out.push(...hiddenParts());
  let silently = 0;
  for (let k = 0; k < 120; k++) {
    const transfer = (['linear', 'logarithmic', 'curved', 'root'] as const)[k % 4];
    const { raster } = markerPicture({ transfer, marker: 'none', neighbours: 4 }, seededRandom(60_000 + k));
    const search = findRound(patchOfRaster(raster), { kind: k % 2 ? 'ball' : 'disc' });
    if (search.outcome === 'found' && search.best.doubts.length === 0) silently++;
  }
  out.push({
    name: 'Other makes, metal but no marker: none taken without a doubt',
    right: 120 - silently,
    of: 120,
    must: 0.995
  });
  for (const kind of ['ruler', 'bar'] as const) {
    const { taken, of } = takenWithoutDoubt(kind);
    out.push({
      name: `Other makes, metal but no ${kind}: none taken without a doubt`,
      right: of - taken,
      of,
      must: 0.995
    });
    let found = 0;
    let right = 0;
    for (let k = 0; k < 40; k++) {
      const transfer = (['linear', 'logarithmic', 'curved', 'root'] as const)[k % 4];
      const sizePx = kind === 'ruler' ? 8 + ((7 * k) % 30) : 40 + ((37 * k) % 150);
      const { raster, marker } = markerPicture({ transfer, marker: kind, sizePx }, seededRandom(70_000 + k));
      const patch = patchOfRaster(raster);
      const search = kind === 'ruler' ? findRuler(patch) : findBars(patch);
      if (search.outcome !== 'found') continue;
      found++;
      const { best } = search;
      if (
        best.kind === 'ruler'
          ? best.places === marker!.lines
          : Math.abs(best.lengthPx - marker!.sizePx) < 2 * best.uncertaintyPx
      )
        right++;
    }
    out.push({ name: `Other makes, ${kind}: found`, right: found, of: 40, must: 0.9 });
    out.push({
      name: `Other makes, ${kind}: ${kind === 'ruler' ? 'all lines counted' : 'length inside its ±'}`,
      right,
      of: found,
      must: 0.9
    });
  }
  return out;
}

/**
 * What is found where a ball or disc lies, and whether it is taken without asking.
 * @param sizeShare something that is off by this share of its size is another thing
 */
function soughtIn(raster: Raster, kind: 'ball' | 'disc', at: Point, sizePx: number, sizeShare = Infinity) {
  const search = findRound(patchOfRaster(raster), { kind });
  const all = search.outcome === 'found' ? [search.best, ...search.others] : search.others;
  const hit = all.find(
    ({ center, diameterPx }) =>
      Math.hypot(center.x - at.x, center.y - at.y) < 0.25 * sizePx &&
      Math.abs(diameterPx / sizePx - 1) < sizeShare
  );
  return { hit, byItself: hit !== undefined && search.outcome === 'found' && search.best === hit };
}

/** How often a ball or disc is found, right, and inside its ±. */
function sizesOf(
  name: string,
  count: number,
  kind: 'ball' | 'disc',
  pictureOf: (k: number) => MarkerPicture
): Truth[] {
  const tally = { found: 0, clear: 0, near: 0, half: 0, held: 0 };
  for (let k = 0; k < count; k++) {
    const { raster, marker } = pictureOf(k);
    const { hit, byItself } = soughtIn(raster, kind, marker!.center, marker!.sizePx);
    if (byItself) tally.found++;
    if (!hit || hit.seen < 0.93) continue;
    const off = Math.abs(hit.diameterPx - marker!.sizePx);
    tally.clear++;
    if (off < 0.3) tally.near++;
    if (off < 0.5) tally.half++;
    if (off < 2 * hit.uncertaintyPx) tally.held++;
  }
  return [
    { name: `Other makes, ${name}: found by itself`, right: tally.found, of: count, must: 0.95 },
    { name: `Other makes, ${name}: within 0.3 px`, right: tally.near, of: tally.clear, must: 0.9 },
    { name: `Other makes, ${name}: within 0.5 px`, right: tally.half, of: tally.clear, must: 0.97 },
    { name: `Other makes, ${name}: inside its ±`, right: tally.held, of: tally.clear, must: 0.93 }
  ];
}

/** Balls and discs of which metal hides a fifth to a half, or that lie on the border: all of them have to be doubted. */
function hiddenParts(): Truth[] {
  const count = 40;
  return (['under metal', 'beyond the border'] as const).flatMap((hidden) =>
    (['ball', 'disc'] as const).flatMap((kind) => {
      const tally = { found: 0, offered: 0, doubted: 0, held: 0 };
      for (let k = 0; k < count; k++) {
        const transfer = (['linear', 'logarithmic', 'curved', 'root'] as const)[k % 4];
        const { raster, marker } = markerPicture(
          { transfer, marker: kind, hidden, width: 460, height: 500 },
          seededRandom(65_000 + k)
        );
        const { hit, byItself } = soughtIn(raster, kind, marker!.center, marker!.sizePx, 0.3);
        if (!hit) continue;
        tally.offered++;
        if (byItself) tally.found++;
        if (hit.doubts.length > 0) tally.doubted++;
        if (Math.abs(hit.diameterPx - marker!.sizePx) < 2 * hit.uncertaintyPx) tally.held++;
      }
      const named = (what: string, right: number, of: number, must: number): Truth => ({
        name: `Other makes, ${kind} in part ${hidden}: ${what}`,
        right,
        of,
        must
      });
      return [
        named('offered', tally.offered, count, 0.7),
        named('found by itself', tally.found, count, 0.7),
        named('never without a doubt', tally.doubted, tally.offered, 1),
        named('inside its ±', tally.held, tally.offered, 0.93)
      ];
    })
  );
}

/** Advice on takes by detectors of other makes, transfer by transfer. */
export function truthOfAdviceOnOtherMakes(): Truth[] {
  const views = [0, 3, 7, 9, 12, 15].map((i) =>
    coarseTake(mouth(ordinaryMouth(1 + (i % 3))), fullMouth.pattern.slots[i])
  );
  const faults: TakeFault[] = [
    'none',
    'under-exposed',
    'over-exposed',
    'nothing exposed',
    'moved',
    'edge cut off'
  ];
  return faults.flatMap((fault) =>
    (['linear', 'logarithmic', 'curved', 'root'] as const).map((transfer): Truth => {
      let right = 0;
      for (let k = 0; k < 12; k++) {
        const take = takeOfAnyMake(views[k % 6], transfer, fault, seededRandom(80_000 + k));
        const said = adviceOn(take, { norm: intraoralNorm });
        if (fault === 'none' ? said.length === 0 : said.some(({ kind }) => kind === fault)) right++;
      }
      const name = fault === 'none' ? 'nothing said of good takes' : fault;
      return {
        name: `Other makes, ${transfer}: ${name}`,
        right,
        of: 12,
        must: fault === 'none' ? 0.98 : 0.9
      };
    })
  );
}

/** Less dose than a clinic keeps of a view, learned from eight takes of each of twelve detectors of other makes. */
export function truthOfUsualDose(): Truth[] {
  const patients = { kept: [1, 2, 3, 4, 5, 6, 7, 8], later: [11, 12, 13, 14] };
  const tally = { low: 0, good: 0, of: 0 };
  for (let c = 0; c < 12; c++) {
    const transfer = (['linear', 'logarithmic', 'curved', 'root'] as const)[c % 4];
    const slot = fullMouth.pattern.slots[[0, 7, 12][c % 3]];
    const counts = 10 ** (3.3 + (0.9 * ((7 * c) % 12)) / 12);
    const chain = anyImaging(transfer, seededRandom(100 + c), { denseBright: true, grid: 0, counts });
    const spanOf = (patient: number, dose: number) => {
      const { map, width, height } = coarseTake(mouth(ordinaryMouth(patient)), slot);
      const random = seededRandom(1000 * c + 10 * patient + dose);
      const raster = imaged(map.slice(), width, height, chain, random, { dose });
      return exposureOf(asShown(raster), patchOfRaster(raster)).span;
    };
    const kept = patients.kept.flatMap((patient) => spanOf(patient, 0.8 + 0.05 * patient) ?? []);
    const usual = usualDose(kept);
    const isLow = (span: number | null) =>
      span !== null && usual !== null && shareOfUsual(span, usual) < usual.leastShare;
    for (const patient of patients.later) {
      tally.of++;
      if (isLow(spanOf(patient, 0.2 + 0.05 * (patient % 4)))) tally.low++;
      if (!isLow(spanOf(patient, 0.8 + 0.1 * (patient % 4)))) tally.good++;
    }
  }
  const name = 'Other makes, learned from kept takes';
  return [
    { name: `${name}: a fifth to a third of the usual dose`, right: tally.low, of: tally.of, must: 0.9 },
    { name: `${name}: nothing said of good ones`, right: tally.good, of: tally.of, must: 0.98 }
  ];
}

/** A picture of a limb by any detector, with markers, rulers and metal in it. */
function limb(k: number, fault: TakeFault, denseBright: boolean): Raster {
  const random = seededRandom(91_000 + k);
  const [width, height] = [560, 620];
  return markerPicture(
    {
      transfer: (['linear', 'logarithmic', 'curved', 'root'] as const)[k % 4],
      marker: (['none', 'ball', 'ruler', 'bar', 'disc'] as const)[k % 5],
      neighbours: k % 4,
      width,
      height,
      faults: faultsOf(fault, width, height, (low, high) => low + (high - low) * random.uniform()),
      imaging: { denseBright, counts: 10 ** (3.4 + (0.8 * (k % 7)) / 6) }
    },
    seededRandom(90_000 + k)
  ).raster;
}

/** Limbs that are well taken, of which nothing is to be said, and limbs that moved. */
export function truthOfAdviceOnLimbs(): Truth[] {
  const count = 80;
  const said = (fault: TakeFault, denseBright: boolean, right: (kinds: AdviceKind[]) => boolean) =>
    Array.from({ length: count }, (_, k) =>
      adviceOn(limb(k, fault, denseBright), { norm: anyExposure, denseBright }).map(({ kind }) => kind)
    ).filter(right).length;
  const quiet = (denseBright: boolean) => said('none', denseBright, (kinds) => kinds.length === 0);
  const name = 'Other makes, limbs';
  return [
    { name: `${name}: nothing said of good ones`, right: quiet(true), of: count, must: 0.98 },
    { name: `${name}, dense parts stored dark: the same`, right: quiet(false), of: count, must: 0.98 },
    {
      name: `${name}: moved`,
      right: said('moved', true, (kinds) => kinds.includes('moved')),
      of: count,
      must: 0.9
    }
  ];
}

export function truthOfMarkers(): Truth[] {
  const count = 60;
  let near = 0;
  let falsely = 0;
  for (let k = 0; k < count; k++) {
    const random = seededRandom(5000 + k);
    const wanted = 8 * 15 ** random.uniform();
    const scene = ballScene({ width: 420, height: 460, ballsPx: [wanted] }, random, k + 1);
    const [{ center, diameterMm }] = scene.balls;
    const found = findRound(patchOfRaster(scene.raster), {
      kind: 'ball',
      diameterMm,
      diameterPx: { least: (diameterMm / scene.pitchMm) * 0.97, most: (diameterMm / scene.pitchMm) * 1.4 }
    });
    const all = [...(found.outcome === 'found' ? [found.best] : []), ...found.others];
    if (
      all.some(
        (ball) =>
          Math.hypot(ball.center.x - center.x, ball.center.y - center.y) < 2 &&
          Math.abs(ball.diameterPx - wanted) < 0.3
      )
    )
      near++;
    const empty = ballScene({ width: 420, height: 460, ballsPx: [] }, seededRandom(6000 + k), k);
    if (findRound(patchOfRaster(empty.raster), { kind: 'ball' }).outcome === 'found') falsely++;
  }
  return [
    { name: 'Steel ball of 8 to 120 px: diameter within 0.3 px', right: near, of: count, must: 0.95 },
    { name: 'Pictures without a marker: none taken', right: count - falsely, of: count, must: 1 }
  ];
}

export function truthOfAdvice(): Truth[] {
  const random = seededRandom(91);
  const any = (low: number, high: number) => low + (high - low) * random.uniform();
  const views = fullMouth.pattern.slots.map((slot, i) => coarseTake(mouth(ordinaryMouth(1 + (i % 4))), slot));
  const faults: Record<string, (size: { width: number; height: number }) => Faults> = {
    'under-exposed': () => ({ dose: any(0.2, 0.45) }),
    'over-exposed': () => ({ dose: any(2, 6) }),
    'nothing exposed': () => ({ dose: 0 }),
    clipped: () => ({ clipAt: any(0.28, 0.38) }),
    'edge cut off': ({ width: w, height: h }) => {
      const a = any(0, 2 * Math.PI);
      return {
        cutOff: {
          kind: 'straight',
          through: { x: w * (0.5 + 0.28 * Math.cos(a)), y: h * (0.5 + 0.28 * Math.sin(a)) },
          towardsDeg: (a * 180) / Math.PI
        }
      };
    },
    'moved by a millimetre and more': () => ({
      motion: { lengthPx: any(25, 36), directionDeg: any(0, 180) }
    }),
    'moved by half a millimetre to one': () => ({
      motion: { lengthPx: any(13, 25), directionDeg: any(0, 180) }
    })
  };
  const advised = (view: (typeof views)[number], seed: number, fault: Faults) =>
    adviceOn(exposed(view.map.slice(), view.width, view.height, coarseSensor, seededRandom(seed), fault), {
      norm: intraoralNorm
    });
  const out: Truth[] = [];
  for (const [kind, fault] of Object.entries(faults)) {
    const runs = views.flatMap((view, i) => [1, 2].map((k) => advised(view, 100 * i + k, fault(view))));
    out.push({
      name: `Advice, ${kind}`,
      right: runs.filter((advice) => advice.some((each) => kind.startsWith(each.kind))).length,
      of: runs.length,
      must: 0.95
    });
  }
  const good = views.flatMap((view, i) =>
    [1, 2, 3, 4].map((k) => advised(view, 7000 + 100 * i + k, { dose: any(0.8, 1.1) }))
  );
  out.push({
    name: 'Advice, nothing said of good takes',
    right: good.filter((advice) => advice.length === 0).length,
    of: good.length,
    must: 0.98
  });
  return out;
}

import { advisedGaze, coverageOf, heldLids } from '../src/lib/core/cornea/coverage';
import { type TakeToJoin, joined } from '../src/lib/core/cornea/join';
import { bestSphere } from '../src/lib/core/cornea/maps';
import { takeCornea } from '../src/lib/core/cornea/measured';
import { qualityOf } from '../src/lib/core/cornea/quality';
import { readTake } from '../src/lib/core/cornea/readTake';
import { ringsIn } from '../src/lib/core/cornea/rings';
import { judgedSheet } from '../src/lib/core/cornea/spoilt';
import { SurfaceReader } from '../src/lib/core/cornea/surface';
import { quillTarget as target } from '../src/lib/core/cornea/target';
import { rootMeanSquare } from '../src/lib/core/measurement/fit/linear';
import type { CorneaWish } from '../src/lib/core/phantom/eye/cornea';
import { seededRandom } from '../src/lib/core/random';
import {
  type EyeFault,
  type EyeTake,
  eyeTake,
  nineGazes,
  offFromTruthUm
} from '../src/lib/core/phantom/scenes/eyeTakes';
import type { Truth } from './measuring';
import { type Row, median, times } from './report';

const shapes: CorneaWish[] = [
  { flatMm: 7.8 },
  { flatMm: 8, steepMm: 7.5, axisDeg: 25, q: -0.25 },
  { flatMm: 7.8, q: -0.2, cone: { x: 0.7, y: 1, heightMm: 0.03, widthMm: 1.1 } },
  { flatMm: 7.6, q: -0.35 },
  {
    flatMm: 7.9,
    q: -0.2,
    zernike: {
      terms: [
        [7, 4],
        [9, 3],
        [12, 2],
        [5, 5]
      ],
      radiusMm: 5.5
    }
  }
];
const limbusMm = 5.75;

/** Where the range put the whole eye is the range finder's; the shape about that is ours. */
function shapeRms(offs: readonly number[]): number {
  const shift = offs.reduce((sum, value) => sum + value, 0) / offs.length;
  return rootMeanSquare(offs.map((value) => value - shift));
}

interface Read {
  take: EyeTake;
  read: Extract<ReturnType<typeof readTake>, { outcome: 'read' }> | null;
}

function readOf(take: EyeTake): Read {
  const read = readTake(take.raster, target, take.range);
  return { take, read: read.outcome === 'read' ? read : null };
}

const toJoin = ({ take, read }: Read): TakeToJoin => ({
  fit: read!.fit,
  gazeRightDeg: take.gazeRightDeg,
  gazeUpDeg: take.gazeUpDeg
});

/** An eye that nobody chose: torics, every third of them with a cone, every third with other unevenness. */
function anyEye(eye: number): CorneaWish {
  const random = seededRandom(70_000 + eye);
  const flatMm = 7.2 + 1.2 * random.uniform();
  const shape: CorneaWish = {
    flatMm,
    steepMm: flatMm - 0.6 * random.uniform(),
    axisDeg: 180 * random.uniform(),
    q: -0.45 * random.uniform()
  };
  if (eye % 3 === 1) {
    const [x, y] = [0.7 * random.normal(), 0.5 + random.uniform()];
    const cone = { x, y, heightMm: 0.015 + 0.025 * random.uniform(), widthMm: 1 + 0.4 * random.uniform() };
    return { ...shape, cone };
  }
  if (eye % 3 === 0) return shape;
  const terms = [5, 7, 9, 12].map((term): [number, number] => [term, 2.5 * random.normal()]);
  return { ...shape, zernike: { terms, radiusMm: 5.5 } };
}

interface Eye {
  shape: CorneaWish;
  takes: Read[];
}

let chosen: Eye[] | null = null;
let others: Eye[] | null = null;

const eyeOf = (shape: CorneaWish, seed: number): Eye => ({
  shape,
  takes: nineGazes.map((gaze, g) => readOf(eyeTake(shape, gaze, target, seed + g)))
});

/** Nine good takes of three eyes, made once. */
const chosenEyes = (): Eye[] => (chosen ??= shapes.slice(0, 3).map((shape, s) => eyeOf(shape, 500 * s)));

/** And of eyes that nobody chose. */
const otherEyes = (): Eye[] =>
  (others ??= Array.from({ length: 13 }, (_, eye) => eyeOf(anyEye(eye), 71_000 + 100 * eye)));

export async function benchCorneas(): Promise<Row[]> {
  const { takes } = chosenEyes()[1];
  const { raster, range } = takes[0].take;
  const joinable = takes.map(toJoin);
  const row = async (
    name: string,
    limitMs: number,
    reference: string,
    work: () => unknown,
    limit = 1
  ): Promise<Row> => ({
    name,
    oursMs: median(await times(5, work)),
    reference,
    referenceMs: limitMs,
    limit
  });
  return [
    await row('Ring picture, 1024x1024: rings and capture quality', 500, 'half a second', () => {
      const found = ringsIn(raster, target);
      if (found.outcome === 'found') qualityOf(found.rings, target);
    }),
    await row(
      'One take, from picture to surface',
      1000,
      'a second',
      () => readTake(raster, target, range),
      Infinity
    ),
    await row('Nine takes joined to one sheet', 2000, 'two seconds', () => joined(joinable, target)),
    await row('Nine pictures to one judged sheet', 2000, 'two seconds', () => {
      const reads = takes.map(({ take }) => readOf(take));
      judgedSheet(
        reads.map(toJoin),
        reads.map(({ read }) => read!.quality),
        target
      );
    })
  ];
}

export function* truthOfCorneas(): Generator<Truth> {
  yield* oneGaze();
  yield* nineTogether();
  yield* spoiltOnes();
  yield advice();
}

/** Of broken tear films, and of all takes of the eyes to be joined. */
function oneGaze(): Truth[] {
  const broken = shapes.flatMap((shape, s) =>
    [0, 1, 2].map((seed) => {
      const gaze = seed === 0 ? nineGazes[0] : nineGazes[1 + ((s + 2 * seed) % 8)];
      return { shape, ...readOf(eyeTake(shape, gaze, target, 9000 + 10 * s + seed, { tearBreak: 0.1 })) };
    })
  );
  const whole = [...chosenEyes(), ...otherEyes()].flatMap(({ shape, takes }) =>
    takes.map((take) => ({ shape, ...take }))
  );
  const off = [...broken, ...whole].map(({ shape, take, read }) => {
    if (!read) return Infinity;
    const { surface } = read.fit;
    const reader = new SurfaceReader(surface);
    return shapeRms(offFromTruthUm(shape, take.pose, (x, y) => reader.at(x, y).z, surface.middle, 3.5));
  });
  const radii = Array.from({ length: 10 }, (_, i) => {
    const flatMm = 7 + 0.2 * i;
    const { read } = readOf(eyeTake({ flatMm }, nineGazes[i % 9], target, 9500 + i));
    return read ? bestSphere(takeCornea(read.fit).heights, 6).radiusMm - flatMm : Infinity;
  });
  return [
    {
      name: `One take: heights within 1 micrometre rms over 7 mm (worst ${Math.max(...off).toFixed(2)})`,
      right: off.filter((value) => value < 1).length,
      of: off.length,
      must: 0.95
    },
    {
      name: `One take: a sphere's radius within 0.01 mm (worst ${Math.max(...radii.map(Math.abs)).toFixed(4)})`,
      right: radii.filter((value) => Math.abs(value) < 0.01).length,
      of: radii.length,
      must: 0.95
    }
  ];
}

function nineTogether(): Truth[] {
  const found = [...chosenEyes(), ...otherEyes()].map(({ shape, takes }) => {
    if (takes.some(({ read }) => read === null)) return { um: Infinity, covered: 0 };
    const joinable = takes.map(toJoin);
    const sheet = joined(joinable, target);
    const reader = new SurfaceReader(sheet.surface);
    const [shown] = sheet.takes.map(({ pose }) => pose);
    const heightAt = (x: number, y: number) => reader.at(x - shown.x, y - shown.y).z - shown.towards;
    return {
      um: shapeRms(offFromTruthUm(shape, takes[0].take.pose, heightAt, shown, limbusMm)),
      covered: coverageOf(
        joinable,
        sheet.takes.map(({ pose }) => pose),
        limbusMm
      ).share
    };
  });
  return [
    {
      name: `Nine takes: heights within 3 micrometres rms over 11.5 mm (worst ${Math.max(...found.map(({ um }) => um)).toFixed(2)})`,
      right: found.filter(({ um }) => um < 3).length,
      of: found.length,
      must: 0.95
    },
    {
      name: `Nine takes: 98 % of 11.5 mm covered (least ${(100 * Math.min(...found.map(({ covered }) => covered))).toFixed(1)} %)`,
      right: found.filter(({ covered }) => covered >= 0.98).length,
      of: found.length,
      must: 0.95
    }
  ];
}

const spoiltOfEach = 8;

/** Of nine takes one is spoilt: every fault in turn, at every gaze. */
function spoiltOnes(): Truth[] {
  const faults: EyeFault[] = ['blink', 'lid', 'moved', 'out of focus', 'another eye'];
  let [named, unjustly, of] = [0, 0, 0];
  otherEyes().forEach(({ shape, takes }, eye) => {
    for (let k = 0; k < spoiltOfEach; k++, of++) {
      const g = (eye + k) % nineGazes.length;
      const fault = faults[of % faults.length];
      const bad = readOf(eyeTake(shape, nineGazes[g], target, 81_000 + 100 * eye + k, { fault }));
      const all = takes.map((each, i) => (i === g ? bad : each)).filter(({ read }) => read !== null);
      const { verdicts } = judgedSheet(
        all.map(toJoin),
        all.map(({ read }) => read!.quality),
        target
      );
      const isNamed = bad.read === null || verdicts[all.indexOf(bad)].again;
      if (isNamed) named++;
      if (verdicts.some(({ again }, i) => again && all[i] !== bad)) unjustly++;
    }
  });
  return [
    { name: 'The spoilt take of nine is named', right: named, of, must: 0.98 },
    { name: 'No other of the nine is', right: of - unjustly, of, must: 0.98 }
  ];
}

/** What has been taken when advice is asked for, as places in the nine gazes. */
const takenBefore = [[0], [0, 1], [0, 1, 2], [0, 3], [0, 3, 4], [0, 1, 3]];

/** The advised gaze, taken, against twelve other directions taken: it must add at least nine tenths of the best. */
function advice(): Truth {
  let good = 0;
  takenBefore.forEach((before, s) => {
    const shape = anyEye(s);
    const some = before.map((g) => toJoin(readOf(eyeTake(shape, nineGazes[g], target, 6000 + 10 * s + g))));
    const shareOf = (takes: TakeToJoin[]) => {
      const sheet = joined(takes, target);
      const poses = sheet.takes.map(({ pose }) => pose);
      return { sheet, coverage: coverageOf(takes, poses, limbusMm) };
    };
    const have = shareOf(some);
    const told = advisedGaze(
      new SurfaceReader(have.sheet.surface),
      have.coverage,
      have.sheet.takes[0].pose,
      target,
      heldLids
    );
    if (!told) return;
    const adds = (gaze: readonly [number, number], seed: number): number => {
      const more = readOf(eyeTake(shape, gaze, target, seed));
      return more.read ? shareOf([...some, toJoin(more)]).coverage.share - have.coverage.share : 0;
    };
    const advised = adds([told.rightDeg, told.upDeg], 7000 + s);
    const others = Array.from({ length: 12 }, (_, k) => {
      const [angle, turnDeg] = [(k * Math.PI) / 6 + 0.2 * s, k % 2 === 0 ? 18 : 23];
      return adds([turnDeg * Math.cos(angle), turnDeg * Math.sin(angle)], 7100 + 20 * s + k);
    });
    if (advised >= 0.9 * Math.max(...others)) good++;
  });
  const of = takenBefore.length;
  return { name: 'The advised gaze adds nine tenths of the best', right: good, of, must: 0.95 };
}

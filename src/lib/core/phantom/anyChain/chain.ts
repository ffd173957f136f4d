import { type SeededRandom, anyBetween, anyTimes } from '../../random';
import { gaussianSpread } from './spread';

/** How values of a picture go with the rays, by its general form. */
export type AnswerForm = 'linear' | 'power' | 'logarithmic' | 'sigmoid' | 'film' | 'mixed';

export interface Answer {
  form: AnswerForm;
  of: (rays: number) => number;
}

/** Rays behind the patient, as shares of the open beam. */
export interface Beam {
  width: number;
  height: number;
  rays: Float32Array;
}

export interface ChainPicture {
  data: Float32Array;
  /** Whether what takes rays away is shown bright. */
  denseBright: boolean;
  answer: AnswerForm;
  lifted: boolean;
}

/** A picture of a beam by a chain that is left to chance in every part: scatter, answer, noise, lifted edges, range, bits. */
export function byAnyChain({ width, height, rays }: Beam, random: SeededRandom): ChainPicture {
  const data = rays.slice();
  scattered(data, width, height, random);
  const answer = anyAnswer(random);
  const sort = anySort(random);
  const dose = 10 ** anyBetween(random, 2.7, 5.2);
  const readNoise = anyBetween(random, 0, 10);
  if (sort === 'counted' || sort === 'both') {
    const noise = noiseOf(width, height, 0.8, random);
    for (let i = 0; i < data.length; i++) {
      const counts = data[i] * dose;
      data[i] = Math.max(0, counts + Math.sqrt(counts + readNoise * readNoise) * noise[i]) / dose;
    }
  }
  for (let i = 0; i < data.length; i++) data[i] = answer.of(data[i]);
  if (sort === 'even' || sort === 'both') {
    const [least, most] = limitsOf(data);
    const deviation = (most - least) * anyTimes(random, 0.0015, 0.06);
    const noise = noiseOf(width, height, 0.9, random);
    for (let i = 0; i < data.length; i++) data[i] += deviation * noise[i];
  }
  const lift = random.uniform() < 0.45 ? anyBetween(random, 0.15, 1.4) : 0;
  const liftPx = anyTimes(random, 1, 9);
  if (lift > 0) {
    const wide = data.slice();
    gaussianSpread(wide, width, height, liftPx);
    for (let i = 0; i < data.length; i++) data[i] += lift * (data[i] - wide[i]);
  }
  const top = 2 ** [8, 10, 12, 14, 16][Math.floor(5 * random.uniform())] - 1;
  const { low, high } = anyRange(data, answer, random);
  const denseBright = random.uniform() < 0.6;
  for (let i = 0; i < data.length; i++) {
    const share = Math.min(1, Math.max(0, (data[i] - low) / (high - low)));
    data[i] = Math.round(top * (denseBright ? 1 - share : share));
  }
  return { data, denseBright, answer: answer.form, lifted: lift > 0 };
}

/** Rays from all around, as good as even over so small a place. */
function scattered(data: Float32Array, width: number, height: number, random: SeededRandom): void {
  const share = random.uniform() < 0.35 ? 0 : anyBetween(random, 0.01, 0.5);
  const mean = data.reduce((sum, value) => sum + value, 0) / data.length;
  const veil = mean * anyBetween(random, 0.6, 1.3);
  const across = anyBetween(random, -0.2, 0.2) / width;
  const down = anyBetween(random, -0.2, 0.2) / height;
  if (share === 0) return;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const here = veil * (1 + across * (x - width / 2) + down * (y - height / 2));
      data[i] = (1 - share) * data[i] + share * here;
    }
}

/** Noise of counted rays, of the electronics behind, of both, or none that can be seen. */
function anySort(random: SeededRandom): 'counted' | 'even' | 'both' | 'none' {
  const chance = random.uniform();
  return chance < 0.66 ? 'counted' : chance < 0.82 ? 'even' : chance < 0.94 ? 'both' : 'none';
}

/** Standard deviation 1 a pixel; one time in four pixels share some of it with their neighbours, which makes it less. */
function noiseOf(width: number, height: number, coarsestPx: number, random: SeededRandom): Float32Array {
  const grainPx = random.uniform() < 0.25 ? anyBetween(random, 0.3, coarsestPx) : 0;
  const noise = Float32Array.from({ length: width * height }, () => random.normal());
  gaussianSpread(noise, width, height, grainPx);
  return noise;
}

/** The general forms and how often each is had. */
function anyForm(random: SeededRandom): AnswerForm {
  const chance = random.uniform();
  if (chance < 0.25) return 'linear';
  if (chance < 0.46) return 'power';
  if (chance < 0.72) return 'logarithmic';
  if (chance < 0.93) return 'sigmoid';
  return chance < 0.96 ? 'film' : 'mixed';
}

const mixable: readonly AnswerForm[] = ['linear', 'power', 'logarithmic', 'sigmoid'];

export function anyAnswer(random: SeededRandom, form: AnswerForm = anyForm(random)): Answer {
  switch (form) {
    case 'linear':
      return { form, of: (rays) => rays };
    case 'power': {
      // Most take the root.
      const root = random.uniform() < 0.5;
      const power = root ? anyBetween(random, 0.45, 0.55) : anyBetween(random, 0.25, 1.3);
      return { form, of: (rays) => rays ** power };
    }
    case 'logarithmic': {
      if (random.uniform() < 0.5) {
        const least = anyTimes(random, 3e-5, 0.03);
        return { form, of: (rays) => 1 - Math.log(Math.max(rays, least)) / Math.log(least) };
      }
      const times = anyTimes(random, 15, 3e4);
      return { form, of: (rays) => Math.log(1 + times * rays) / Math.log(1 + times) };
    }
    case 'sigmoid': {
      const power = anyBetween(random, 0.8, 2.2);
      const middle = anyTimes(random, 0.06, 0.7) ** power;
      return { form, of: (rays) => rays ** power / (rays ** power + middle) };
    }
    case 'film': {
      const steep = anyBetween(random, 0.4, 1.1);
      const middle = Math.log(anyTimes(random, 0.06, 0.7));
      return { form, of: (rays) => 0.5 + 0.5 * erf((Math.log(Math.max(rays, 1e-7)) - middle) * steep) };
    }
    case 'mixed': {
      const a = anyAnswer(random, mixable[Math.floor(4 * random.uniform())]);
      const b = anyAnswer(random, mixable[1 + Math.floor(3 * random.uniform())]);
      const share = anyBetween(random, 0.2, 0.8);
      const [fullA, fullB] = [a.of(1), b.of(1)];
      return { form, of: (rays) => (share * a.of(rays)) / fullA + ((1 - share) * b.of(rays)) / fullB };
    }
  }
}

/** The greys' range: all that the detector has, what this picture has, wider than that, or cut. */
function anyRange(data: Float32Array, answer: Answer, random: SeededRandom): { low: number; high: number } {
  const stride = data.length > 20_000 ? 5 : 1;
  const sorted = Float32Array.from(
    { length: Math.floor(data.length / stride) },
    (_, i) => data[i * stride]
  ).sort();
  const at = (share: number) => sorted[Math.floor((sorted.length - 1) * share)];
  const usual = at(0.998) - at(0.002);
  const chance = random.uniform();
  let low: number;
  let high: number;
  if (chance < 0.4) {
    low = Math.min(0, at(0));
    high = Math.max(at(1), answer.of(1) * anyBetween(random, 1, 1.2));
  } else if (chance < 0.7) {
    low = at(anyBetween(random, 0, 0.004));
    high = at(1 - anyBetween(random, 0, 0.004));
  } else if (chance < 0.85) {
    low = at(0.002) - anyBetween(random, 0, 0.5) * usual;
    high = at(0.998) + anyBetween(random, 0, 0.5) * usual;
  } else {
    low = at(0.002) + anyBetween(random, -0.05, 0.25) * usual;
    high = at(0.998) - anyBetween(random, -0.05, 0.12) * usual;
  }
  return { low, high: high > low ? high : low + 1e-6 };
}

function limitsOf(data: Float32Array): [number, number] {
  let least = Infinity;
  let most = -Infinity;
  for (const value of data) {
    least = Math.min(least, value);
    most = Math.max(most, value);
  }
  return [least, most];
}

/** The error function (Abramowitz and Stegun 7.1.26, to 1.5e-7). */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const tail =
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) *
    t *
    Math.exp(-x * x);
  return x < 0 ? tail - 1 : 1 - tail;
}

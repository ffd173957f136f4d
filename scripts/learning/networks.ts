import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import {
  type LearnedReading,
  countedSigns,
  readingBy,
  sharpest
} from '../../src/lib/core/calibration/markers/edgeReading';
import { type SeededRandom, seededRandom } from '../../src/lib/core/random';

const hidden = [64, 32];
const networks = 2;
const rounds = 14;
const batch = 256;
/** One in eight is left out: how far off the rest are is told by those. */
const keptBack = 8;
const fastest = 2e-3;
const slowest = 1e-5;
/** Weights are drawn towards nothing by this. */
const decay = 1e-5;
/** Errors have the tails of Student's t with so many degrees of freedom. */
const freedom = 4;
/** The share of what was left out that lies inside twice the uncertainty. */
const inside = 0.955;
/** Targets further off than this are taken for this: what was found there is another edge. */
const furthestTarget = 3;

/**
 * Networks from rows of signs, each with its target, a length in units of the edge's width, at its end: a place and the
 * logarithm of its standard uncertainty, by the likelihood of Student's t; Adam (Kingma and Ba, 2015), steps that shrink
 * by a cosine.
 * @param greys so many of a row's first numbers are greys across the edge
 */
export function learnedFrom(
  rows: readonly Float32Array[],
  greys: number,
  told: (line: string) => void
): LearnedReading {
  const random = seededRandom(1);
  const test = rows.filter((_, i) => i % keptBack === 0);
  const taught = rows.filter((_, i) => i % keptBack !== 0);
  const count = rows[0].length - 1;
  const signs = usualOf(taught, count);
  const inputs = taught.map((row) => Float32Array.from(countedSigns(signs, row)));
  const targets = taught.map((row) => Math.min(furthestTarget, Math.max(-furthestTarget, row[count])));
  const reading: LearnedReading = {
    ...signs,
    networks: [],
    wider: 1,
    ways: waysOf(taught, signs.usual, greys)
  };
  const made = Array.from({ length: networks }, (_, i) => {
    const network = new Network([count, ...hidden, 2], random);
    const steps = rounds * Math.floor(inputs.length / batch);
    let step = 0;
    for (let round = 0; round < rounds; round++) {
      const order = shuffled(inputs.length, random);
      let loss = 0;
      for (let at = 0; at + batch <= order.length; at += batch) {
        const rate = slowest + (fastest * (1 + Math.cos((Math.PI * step++) / steps))) / 2;
        loss += network.learn(order.subarray(at, at + batch), inputs, targets, rate);
      }
      told(
        `network ${i + 1}, round ${round + 1} of ${rounds}: ${((loss * batch) / order.length).toFixed(3)}`
      );
    }
    return network.layers();
  });
  const several = { ...reading, networks: made };
  const offs = test
    .map((row) => {
      const { beyond, uncertainty } = readingBy(several, row);
      return Math.abs(beyond - row[count]) / (2 * uncertainty);
    })
    .sort((a, b) => a - b);
  const wider = Math.round(100 * offs[Math.floor(inside * offs.length)]) / 100;
  told(`wider by ${wider}`);
  return { ...several, wider };
}

function usualOf(rows: readonly Float32Array[], count: number) {
  const usual = Array.from(
    { length: count },
    (_, i) => rows.reduce((sum, row) => sum + row[i], 0) / rows.length
  );
  const deviations = usual.map(
    (mean, i) => Math.sqrt(rows.reduce((sum, row) => sum + (row[i] - mean) ** 2, 0) / rows.length) + 1e-3
  );
  const short = (value: number) => Number(value.toPrecision(6));
  return { usual: usual.map(short), deviations: deviations.map(short) };
}

const wayCount = 6;

/** The main axes of how the first numbers of rows differ from the usual. */
function waysOf(rows: readonly Float32Array[], usual: readonly number[], count: number): number[][] {
  const covariance = Matrix.zeros(count, count);
  for (const row of rows)
    for (let i = 0; i < count; i++)
      for (let j = 0; j <= i; j++)
        covariance.set(i, j, covariance.get(i, j) + (row[i] - usual[i]) * (row[j] - usual[j]));
  for (let i = 0; i < count; i++) for (let j = 0; j < i; j++) covariance.set(j, i, covariance.get(i, j));
  // Its vectors come with the smallest first.
  const vectors = new EigenvalueDecomposition(covariance, { assumeSymmetric: true }).eigenvectorMatrix;
  return Array.from({ length: wayCount }, (_, k) =>
    vectors.getColumn(count - 1 - k).map((value) => Math.round(1e5 * value) / 1e5)
  );
}

function shuffled(count: number, random: SeededRandom): Uint32Array {
  const order = Uint32Array.from({ length: count }, (_, i) => i);
  for (let i = count - 1; i > 0; i--) {
    const j = Math.floor(random.uniform() * (i + 1));
    [order[i], order[j]] = [order[j], order[i]];
  }
  return order;
}

/** Fully joined layers, tanh between them. */
class Network {
  private readonly weights: Float32Array[];
  private readonly gradients: Float32Array[];
  private readonly means: Float32Array[];
  private readonly squares: Float32Array[];
  private readonly values: Float32Array[];
  private readonly backs: Float32Array[];
  private steps = 0;

  constructor(
    private readonly sizes: readonly number[],
    random: SeededRandom
  ) {
    const last = sizes.length - 2;
    // A row for each number of the next layer: its weights, then its offset.
    this.weights = sizes.slice(1).map((to, depth) => {
      const from = sizes[depth];
      const spread = (depth === last ? 0.1 : 1) / Math.sqrt(from);
      return Float32Array.from({ length: to * (from + 1) }, (_, i) =>
        i % (from + 1) === from ? 0 : spread * random.normal()
      );
    });
    const like = () => this.weights.map(({ length }) => new Float32Array(length));
    this.gradients = like();
    this.means = like();
    this.squares = like();
    this.values = sizes.map((size) => new Float32Array(size));
    this.backs = sizes.map((size) => new Float32Array(size));
  }

  /** One step by some of the rows. @returns their mean loss before it */
  learn(
    rows: Uint32Array,
    inputs: readonly Float32Array[],
    targets: readonly number[],
    rate: number
  ): number {
    for (const gradient of this.gradients) gradient.fill(0);
    let loss = 0;
    for (const row of rows) {
      const [place, log] = this.forward(inputs[row]);
      const sure = Math.min(sharpest[1], Math.max(sharpest[0], log));
      const z = (targets[row] - place) * Math.exp(-sure);
      const pull = ((freedom + 1) * z) / (freedom + z * z);
      loss += ((freedom + 1) / 2) * Math.log(1 + (z * z) / freedom) + sure;
      this.back(-pull * Math.exp(-sure), sure === log ? 1 - pull * z : 0);
    }
    this.stepped(rate, rows.length);
    return loss / rows.length;
  }

  layers(): LearnedReading['networks'][number] {
    return this.weights.map((weights, depth) => {
      const inputs = this.sizes[depth];
      const whole = Array.from(weights, (value) => Math.round(1000 * value));
      return {
        inputs,
        weights: whole.filter((_, i) => i % (inputs + 1) !== inputs),
        offsets: whole.filter((_, i) => i % (inputs + 1) === inputs)
      };
    });
  }

  private forward(input: Float32Array): Float32Array {
    this.values[0].set(input);
    this.weights.forEach((weights, depth) => {
      const [from, to] = [this.values[depth], this.values[depth + 1]];
      const bent = depth < this.weights.length - 1;
      for (let j = 0, at = 0; j < to.length; j++) {
        let sum = 0;
        for (let i = 0; i < from.length; i++) sum += weights[at++] * from[i];
        sum += weights[at++];
        to[j] = bent ? Math.tanh(sum) : sum;
      }
    });
    return this.values[this.values.length - 1];
  }

  private back(byPlace: number, byLog: number): void {
    this.backs[this.backs.length - 1].set([byPlace, byLog]);
    for (let depth = this.weights.length - 1; depth >= 0; depth--) {
      const [weights, gradients] = [this.weights[depth], this.gradients[depth]];
      const [from, back, to] = [this.values[depth], this.backs[depth], this.backs[depth + 1]];
      back.fill(0);
      for (let j = 0, at = 0; j < to.length; j++) {
        const slope = to[j];
        for (let i = 0; i < from.length; i++, at++) {
          gradients[at] += slope * from[i];
          back[i] += slope * weights[at];
        }
        gradients[at++] += slope;
      }
      if (depth > 0) for (let i = 0; i < from.length; i++) back[i] *= 1 - from[i] * from[i];
    }
  }

  private stepped(rate: number, rows: number): void {
    this.steps++;
    const [first, second] = [1 - 0.9 ** this.steps, 1 - 0.999 ** this.steps];
    this.weights.forEach((weights, depth) => {
      const [gradients, means, squares] = [this.gradients[depth], this.means[depth], this.squares[depth]];
      for (let i = 0; i < weights.length; i++) {
        const gradient = gradients[i] / rows + decay * weights[i];
        means[i] = 0.9 * means[i] + 0.1 * gradient;
        squares[i] = 0.999 * squares[i] + 0.001 * gradient * gradient;
        weights[i] -= (rate * (means[i] / first)) / (Math.sqrt(squares[i] / second) + 1e-8);
      }
    });
  }
}

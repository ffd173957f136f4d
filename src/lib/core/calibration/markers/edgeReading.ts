/** One layer: what each number of the layer before counts for each number of this one, in thousandths. */
interface Layer {
  inputs: number;
  weights: readonly number[];
  offsets: readonly number[];
}

/** What the reading of a kind of thing was learned to be; see `scripts/learnEdges`. */
export interface LearnedReading {
  /** What signs usually are: they are told as how many usual deviations they are off. */
  usual: readonly number[];
  deviations: readonly number[];
  /** Several, learned apart: what they differ by is uncertain. */
  networks: readonly (readonly Layer[])[];
  /** By so much more than they say themselves they are off, on pictures that they were not learned from. */
  wider: number;
  /** The ways in which the greys across an edge differ from the usual ones, most of it first; each of length 1. */
  ways: readonly (readonly number[])[];
}

export interface EdgeReading {
  /** By how much the true rim is further out than where the edge looks steepest, in edge widths, and its standard uncertainty. */
  beyond: number;
  uncertainty: number;
}

/** Root mean square of what the usual ways of edges leave of the greys across one, as a share of the step. */
export function unlikeness({ usual, ways }: LearnedReading, signs: ArrayLike<number>): number {
  const left = Float64Array.from(ways[0], (_, i) => signs[i] - usual[i]);
  for (const way of ways) {
    const along = way.reduce((sum, value, i) => sum + value * left[i], 0);
    way.forEach((value, i) => (left[i] -= along * value));
  }
  return Math.sqrt(left.reduce((sum, value) => sum + value * value, 0) / left.length);
}

/** Signs further off than anything that was learned from say no more than the furthest that was. */
const furthest = 4;
const thousandth = 1e-3;

/** Signs as how many usual deviations they are off what is usual. */
export const countedSigns = (
  { usual, deviations }: Pick<LearnedReading, 'usual' | 'deviations'>,
  signs: ArrayLike<number>
): Float64Array =>
  Float64Array.from(usual, (value, i) =>
    Math.min(furthest, Math.max(-furthest, (signs[i] - value) / deviations[i]))
  );

/** The true rim by several small networks (tanh), each telling a place and how sure it is. */
export function readingBy(learned: LearnedReading, signs: ArrayLike<number>): EdgeReading {
  const { networks, wider } = learned;
  const inputs = countedSigns(learned, signs);
  let sum = 0;
  let squares = 0;
  let variance = 0;
  for (const network of networks) {
    const [place, log] = network.reduce<Float64Array>(
      (values, layer, depth) => next(layer, values, depth < network.length - 1),
      inputs
    );
    sum += place;
    squares += place * place;
    variance += Math.exp(2 * Math.min(sharpest[1], Math.max(sharpest[0], log)));
  }
  const n = networks.length;
  const beyond = sum / n;
  return {
    beyond,
    uncertainty: wider * Math.sqrt(variance / n + Math.max(0, squares / n - beyond * beyond))
  };
}

/** Logarithms of the least and most uncertainty that a network tells, in edge widths. */
export const sharpest = [-7, 2] as const;

function next({ inputs, weights, offsets }: Layer, values: Float64Array, bent: boolean): Float64Array {
  return Float64Array.from(offsets, (offset, to) => {
    let sum = offset;
    for (let from = 0; from < inputs; from++) sum += weights[to * inputs + from] * values[from];
    return bent ? Math.tanh(sum * thousandth) : sum * thousandth;
  });
}

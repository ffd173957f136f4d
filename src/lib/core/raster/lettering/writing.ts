import fitted from './writingTrees.json';

/**
 * How much marks look like writing, by what they tell together: boosted decision trees of depth three (Friedman, 2001),
 * fitted once to lines found in simulated pictures with and without writing, of a dozen kinds and in thirteen typefaces,
 * level and turned, in one colour or several, crisp or packed. A branch is the number it looks at, that number's limit,
 * and what comes up to the limit and above it.
 */
type Tree = number | [number, number, Tree, Tree];
const trees = fitted as unknown as Record<'line' | 'together', Tree[]>;

function leafOf(tree: Tree, numbers: readonly number[]): number {
  let at = tree;
  while (typeof at !== 'number') at = at[numbers[at[0]] <= at[1] ? 2 : 3];
  return at;
}

const oddsBy = (all: readonly Tree[], numbers: readonly number[]) =>
  all.reduce<number>((sum, tree) => sum + leafOf(tree, numbers), 0);

/** Log odds that a line is writing, by its own features, of as many lines of writing as of others. */
export const lineOdds = (features: readonly number[]): number => oddsBy(trees.line, features);

/** The same with what stands around the line and at its place in other sizes and shades. */
export const oddsTogether = (numbers: readonly number[]): number => oddsBy(trees.together, numbers);

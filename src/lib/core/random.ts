/** Repeatable random numbers: the same seed gives the same run on every machine. */
export interface SeededRandom {
  /** 0 up to but not 1. */
  uniform(): number;
  /** Mean 0, standard deviation 1. */
  normal(): number;
}

/** The sfc32 generator (Chris Doty-Humphrey, PractRand), warmed up from one number; normals by Marsaglia's polar method. */
export function seededRandom(seed: number): SeededRandom {
  let a = 0x9e3779b9;
  let b = 0x243f6a88;
  let c = seed | 0;
  let counter = 1;
  const next = (): number => {
    const t = (a + b + counter) | 0;
    counter = (counter + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = (c << 21) | (c >>> 11);
    c = (c + t) | 0;
    return (t >>> 0) / 4294967296;
  };
  for (let i = 0; i < 16; i++) next();
  let spare: number | null = null;
  const normal = (): number => {
    if (spare !== null) {
      const value = spare;
      spare = null;
      return value;
    }
    for (;;) {
      const u = 2 * next() - 1;
      const v = 2 * next() - 1;
      const s = u * u + v * v;
      if (s > 0 && s < 1) {
        const factor = Math.sqrt((-2 * Math.log(s)) / s);
        spare = v * factor;
        return u * factor;
      }
    }
  };
  return { uniform: next, normal };
}

/** Any number of a range, each as likely. */
export const anyBetween = (random: SeededRandom, low: number, high: number): number =>
  low + (high - low) * random.uniform();

/** Any number of a range, each doubling as likely. */
export const anyTimes = (random: SeededRandom, low: number, high: number): number =>
  low * (high / low) ** random.uniform();

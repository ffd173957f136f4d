import { byFrequency, side } from './spectrum';

/** An even smear, and how like the picture's spectrum is to that of a smeared one. */
export interface Smear {
  lengthPx: number;
  directionDeg: number;
  /** Correlation of both, 0 to 1, over the frequencies that stand out of the noise. */
  likeness: number;
}

const shortestPx = 8;
const longestPx = 70;
const lengthRatio = 1.1;
const directions = 36;
/** Below the first there is little but the picture's own layout; above the second, noise. */
const frequencies = { least: 3, most: 60 };
/** The noise's plateau is read over these. */
const plateau = { from: 100, to: 125 };
/** Power over the plateau's from which a frequency counts. */
const leastSignal = 1.15;
const leastPlaces = 200;
/** A smear takes away about so much of the power, averaged over directions. */
const takenAway = 3;

interface Places {
  x: Float64Array;
  y: Float64Array;
  /** Frequency, rounded. */
  r: Int32Array;
  /** The logarithm of the power over its mean at that frequency. */
  autocorrelation: Float64Array;
  /** Power of the picture over the noise's, as it was before a smear, by frequency. */
  signal: Float64Array;
}

/**
 * The even smear whose spectrum is likest: a smear of L pixels multiplies the power by sinc^2 along its direction, and
 * noise of the detector fills the zeros. Looked for over lengths and directions, then closer about the likest.
 * @param power mean logarithm, as `spectrumOf` gives it
 * @param mean its means by frequency, where they are known already
 * @returns null where too little stands out of the noise
 */
export function likestSmear(power: Float64Array, mean = byFrequency(power)): Smear | null {
  const places = placesOf(power, mean);
  if (places.autocorrelation.length < leastPlaces) return null;
  const room = new Float64Array(places.autocorrelation.length);
  let best: Smear = { lengthPx: 0, directionDeg: 0, likeness: -1 };
  const tryOut = (lengthPx: number, directionDeg: number) => {
    const likeness = likenessTo(places, lengthPx, directionDeg, room);
    if (likeness > best.likeness) best = { lengthPx, directionDeg: (directionDeg + 180) % 180, likeness };
  };
  const step = 180 / directions;
  for (let length = shortestPx; length <= longestPx; length *= lengthRatio)
    for (let k = 0; k < directions; k++) tryOut(length, k * step);
  for (const closer of [0.5, 0.25]) {
    const { lengthPx, directionDeg } = best;
    for (const longer of [-1, 0, 1])
      for (const turned of [-1, 0, 1])
        tryOut(lengthPx * lengthRatio ** (closer * longer), directionDeg + closer * turned * step);
  }
  return best;
}

function placesOf(power: Float64Array, mean: Float64Array): Places {
  let noise = 0;
  for (let r = plateau.from; r < plateau.to; r++) noise += mean[r] / (plateau.to - plateau.from);
  const signal = mean.map((value) => takenAway * Math.max(0.05, Math.exp(value - noise) - 1));
  const [xs, ys, rs, autocorrelation]: number[][] = [[], [], [], []];
  // The spectrum of a real picture is the same on both sides, and neighbours say nearly the same: every second place.
  for (let y = -frequencies.most; y <= frequencies.most; y++)
    for (let x = Math.abs(y % 2); x <= frequencies.most; x += 2) {
      const r = Math.hypot(x, y);
      if (r < frequencies.least || r > frequencies.most) continue;
      const at = Math.round(r);
      if (Math.exp(mean[at] - noise) < leastSignal) continue;
      xs.push(x);
      ys.push(y);
      rs.push(at);
      autocorrelation.push(power[((y + side) % side) * side + x] - mean[at]);
    }
  return {
    x: Float64Array.from(xs),
    y: Float64Array.from(ys),
    r: Int32Array.from(rs),
    autocorrelation: Float64Array.from(autocorrelation),
    signal
  };
}

/** @param room as long as there are places; what is in it is lost */
function likenessTo(
  { x, y, r, autocorrelation, signal }: Places,
  lengthPx: number,
  directionDeg: number,
  room: Float64Array
): number {
  const angle = (directionDeg * Math.PI) / 180;
  const c = (Math.cos(angle) * lengthPx * Math.PI) / side;
  const s = (Math.sin(angle) * lengthPx * Math.PI) / side;
  const sums = new Float64Array(frequencies.most + 1);
  const counts = new Float64Array(frequencies.most + 1);
  for (let i = 0; i < autocorrelation.length; i++) {
    const turn = x[i] * c + y[i] * s;
    const sinc = Math.abs(turn) < 1e-9 ? 1 : Math.sin(turn) / turn;
    room[i] = Math.log(1 + signal[r[i]] * sinc * sinc);
    sums[r[i]] += room[i];
    counts[r[i]]++;
  }
  let [both, squares, ownSquares] = [0, 0, 0];
  for (let i = 0; i < autocorrelation.length; i++) {
    const expected = room[i] - sums[r[i]] / counts[r[i]];
    both += expected * autocorrelation[i];
    squares += expected * expected;
    ownSquares += autocorrelation[i] * autocorrelation[i];
  }
  return both / Math.sqrt(squares * ownSquares + 1e-12);
}

/**
 * How a picture is turned for looking: first mirrored left to right (if so), then turned clockwise by quarter turns, then
 * tilted about its middle. The eight without a tilt are the symmetries of a rectangle seen in any of its four positions;
 * samples never move.
 */
export interface Orientation {
  quarterTurns: 0 | 1 | 2 | 3;
  mirrored: boolean;
  /** Degrees, clockwise as seen, at most 45 either way; nothing where it stands straight. */
  tiltDeg?: number;
}

export interface Point {
  x: number;
  y: number;
}

/** Of a picture in pixels. */
export interface Size {
  width: number;
  height: number;
  /** How much taller than wide a pixel is; 1 where nothing is said. What is seen is as much taller. */
  pixelAspect?: number;
}

/** A part of a picture as it is turned, in widths of a pixel. */
export interface Part extends Size {
  left: number;
  top: number;
}

export const scaledPart = ({ left, top, width, height }: Part, by: number): Part => ({
  left: left * by,
  top: top * by,
  width: width * by,
  height: height * by
});

export const upright: Orientation = { quarterTurns: 0, mirrored: false };

const turns = (count: number) => (((count % 4) + 4) % 4) as 0 | 1 | 2 | 3;

/** The orientation after a further clockwise turn of what is seen. */
export function turned(orientation: Orientation, quarterTurns: number): Orientation {
  return { ...orientation, quarterTurns: turns(orientation.quarterTurns + quarterTurns) };
}

/** The orientation after mirroring what is seen left to right: mirror after turn t equals turn -t after mirror. */
export function mirrored({ quarterTurns, mirrored, tiltDeg = 0 }: Orientation): Orientation {
  return withTilt({ quarterTurns: turns(-quarterTurns), mirrored: !mirrored }, -tiltDeg);
}

/** Tilts are told apart to a tenth of a degree. */
const tiltStep = 0.1;

const withTilt = ({ quarterTurns, mirrored }: Orientation, tiltDeg: number): Orientation => {
  const tilt = Math.round(tiltDeg / tiltStep) * tiltStep;
  const plain = { quarterTurns, mirrored };
  return Math.abs(tilt) < tiltStep / 2 ? plain : { ...plain, tiltDeg: Number(tilt.toFixed(1)) };
};

/** The same without its tilt. */
export const straight = (orientation: Orientation): Orientation => withTilt(orientation, 0);

/** The orientation after what is seen was turned clockwise by any angle: whole quarter turns are told as such. */
export function tilted(orientation: Orientation, byDeg: number): Orientation {
  const whole = (orientation.tiltDeg ?? 0) + byDeg;
  const quarters = Math.sign(whole) * Math.ceil(Math.abs(whole) / 90 - 0.5);
  return withTilt(turned(orientation, quarters), whole - 90 * quarters);
}

/**
 * The orientation after which a line of the picture is seen level or upright, whichever it is nearer to.
 * @param from @param to image points that don't coincide as seen
 * Worked value: a line that is seen to fall by 1 in 10 is 5.7 degrees off, and the picture is turned back by as much.
 */
export function straightened(orientation: Orientation, from: Point, to: Point, pixels: Size): Orientation {
  const [a, b] = [from, to].map((point) => toOriented(point, pixels, orientation));
  const angle = (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI;
  return tilted(orientation, 90 * Math.round(angle / 90) - angle);
}

export function sameOrientation(a: Orientation, b: Orientation): boolean {
  return (
    a.quarterTurns === b.quarterTurns && a.mirrored === b.mirrored && (a.tiltDeg ?? 0) === (b.tiltDeg ?? 0)
  );
}

/** As large as it is seen, in widths of a pixel: of a tilted picture the rectangle around it. */
export function orientedSize(size: Size, orientation: Orientation): Size {
  const { width, height } = straightSize(size, orientation);
  if (!orientation.tiltDeg) return { width, height };
  const { cos, sin } = tiltOf(orientation.tiltDeg);
  return { width: width * cos + height * Math.abs(sin), height: width * Math.abs(sin) + height * cos };
}

function straightSize(size: Size, { quarterTurns }: Orientation): Size {
  const { width, height } = squared(size);
  return quarterTurns % 2 === 0 ? { width, height } : { width: height, height: width };
}

const tiltOf = (tiltDeg: number) => {
  const angle = (tiltDeg * Math.PI) / 180;
  return { cos: Math.cos(angle), sin: Math.sin(angle) };
};

/** A point turned clockwise about the middle of one rectangle, told in another with the same middle. */
function aboutMiddle({ x, y }: Point, tiltDeg: number, from: Size, to: Size): Point {
  const { cos, sin } = tiltOf(tiltDeg);
  const [dx, dy] = [x - from.width / 2, y - from.height / 2];
  return { x: cos * dx - sin * dy + to.width / 2, y: sin * dx + cos * dy + to.height / 2 };
}

/** A picture's size in widths of a pixel, each way. */
const squared = ({ width, height, pixelAspect = 1 }: Size): Size => ({ width, height: height * pixelAspect });

/**
 * Image point to oriented point. Points are continuous: a pixel's centre is at +0.5, the picture spans 0 to width.
 * A picture 10 wide and 4 high turned once sends (0, 0) to (4, 0). Oriented points count in widths of a pixel both ways.
 */
export function toOriented(imagePoint: Point, pixels: Size, orientation: Orientation): Point {
  const { tiltDeg } = orientation;
  const plain = toStraight(imagePoint, pixels, orientation);
  return tiltDeg
    ? aboutMiddle(plain, tiltDeg, straightSize(pixels, orientation), orientedSize(pixels, orientation))
    : plain;
}

function toStraight(imagePoint: Point, pixels: Size, orientation: Orientation): Point {
  const size = squared(pixels);
  const x = orientation.mirrored ? size.width - imagePoint.x : imagePoint.x;
  const y = imagePoint.y * (pixels.pixelAspect ?? 1);
  switch (orientation.quarterTurns) {
    case 0:
      return { x, y };
    case 1:
      return { x: size.height - y, y: x };
    case 2:
      return { x: size.width - x, y: size.height - y };
    case 3:
      return { x: y, y: size.width - x };
  }
}

/** Oriented point back to image point, the inverse of {@link toOriented}. */
export function toImage(orientedPoint: Point, pixels: Size, orientation: Orientation): Point {
  const { tiltDeg } = orientation;
  const plain = tiltDeg
    ? aboutMiddle(
        orientedPoint,
        -tiltDeg,
        orientedSize(pixels, orientation),
        straightSize(pixels, orientation)
      )
    : orientedPoint;
  return fromStraight(plain, pixels, orientation);
}

function fromStraight(orientedPoint: Point, pixels: Size, orientation: Orientation): Point {
  const size = squared(pixels);
  let x: number;
  let y: number;
  switch (orientation.quarterTurns) {
    case 0:
      ({ x, y } = orientedPoint);
      break;
    case 1:
      x = orientedPoint.y;
      y = size.height - orientedPoint.x;
      break;
    case 2:
      x = size.width - orientedPoint.x;
      y = size.height - orientedPoint.y;
      break;
    case 3:
      x = size.width - orientedPoint.y;
      y = orientedPoint.x;
      break;
  }
  return { x: orientation.mirrored ? size.width - x : x, y: y / (pixels.pixelAspect ?? 1) };
}

const opposite: Record<string, string> = { A: 'P', P: 'A', L: 'R', R: 'L', H: 'F', F: 'H' };

/**
 * DICOM Patient Orientation (0020,0020) of the stored rows and columns, from the directions that the picture's
 * right and bottom edges have once it is oriented for looking; a tilt is not told there.
 * @param shown directions, one letter each, of increasing x and increasing y as shown
 */
export function storedDirections(shown: readonly [string, string], seen: Orientation): [string, string] {
  const orientation = straight(seen);
  const direction = (vector: Point): string => {
    const [letter, amount] = vector.x !== 0 ? [shown[0], vector.x] : [shown[1], vector.y];
    return amount > 0 ? letter : [...letter].map((each) => opposite[each]).join('');
  };
  const unit: Size = { width: 1, height: 1 };
  const origin = toOriented({ x: 0, y: 0 }, unit, orientation);
  const along = (x: number, y: number): Point => {
    const moved = toOriented({ x, y }, unit, orientation);
    return { x: moved.x - origin.x, y: moved.y - origin.y };
  };
  return [direction(along(1, 0)), direction(along(0, 1))];
}

/** An orientation in an address: "1m", "0t-2.5". */
export const turnWords = ({ quarterTurns, mirrored, tiltDeg }: Orientation): string =>
  `${quarterTurns}${mirrored ? 'm' : ''}${tiltDeg ? `t${tiltDeg}` : ''}`;

/** The orientation that {@link turnWords} told; null for other words. */
export function turnOf(words: string): Orientation | null {
  const [, quarter, flip, tilt] = /^([0-3])(m?)(?:t(-?\d{1,2}(?:\.\d)?))?$/.exec(words) ?? [];
  if (quarter === undefined || Math.abs(Number(tilt ?? 0)) > 45) return null;
  const plain = { quarterTurns: Number(quarter) as Orientation['quarterTurns'], mirrored: flip === 'm' };
  return withTilt(plain, Number(tilt ?? 0));
}

/**
 * How a picture is turned for looking: first mirrored left to right (if so), then turned clockwise by quarter turns.
 * The eight of them are the symmetries of a rectangle seen in any of its four positions; samples never move.
 */
export interface Orientation {
  quarterTurns: 0 | 1 | 2 | 3;
  mirrored: boolean;
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

export const upright: Orientation = { quarterTurns: 0, mirrored: false };

const turns = (count: number) => (((count % 4) + 4) % 4) as 0 | 1 | 2 | 3;

/** The orientation after a further clockwise turn of what is seen. */
export function turned(orientation: Orientation, quarterTurns: number): Orientation {
  return { ...orientation, quarterTurns: turns(orientation.quarterTurns + quarterTurns) };
}

/** The orientation after mirroring what is seen left to right: mirror after turn t equals turn -t after mirror. */
export function mirrored(orientation: Orientation): Orientation {
  return { quarterTurns: turns(-orientation.quarterTurns), mirrored: !orientation.mirrored };
}

export function sameOrientation(a: Orientation, b: Orientation): boolean {
  return a.quarterTurns === b.quarterTurns && a.mirrored === b.mirrored;
}

/** As large as it is seen, in widths of a pixel. */
export function orientedSize(size: Size, orientation: Orientation): Size {
  const { width, height } = squared(size);
  return orientation.quarterTurns % 2 === 0 ? { width, height } : { width: height, height: width };
}

/** A picture's size in widths of a pixel, each way. */
const squared = ({ width, height, pixelAspect = 1 }: Size): Size => ({ width, height: height * pixelAspect });

/**
 * Image point to oriented point. Points are continuous: a pixel's centre is at +0.5, the picture spans 0 to width.
 * A picture 10 wide and 4 high turned once sends (0, 0) to (4, 0). Oriented points count in widths of a pixel both ways.
 */
export function toOriented(imagePoint: Point, pixels: Size, orientation: Orientation): Point {
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
 * right and bottom edges have once it is oriented for looking.
 * @param shown directions, one letter each, of increasing x and increasing y as shown
 */
export function storedDirections(
  shown: readonly [string, string],
  orientation: Orientation
): [string, string] {
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

import { laidOver, onto } from '../../raster/geometry/similarity';
import type { Point, Size } from '../../raster/orientation';
import type { GuideView } from './guide';

/** Where a landmark is likely, and how far around it, in the units of what was placed. */
export interface Likely {
  at: Point;
  radius: number;
  /** Whether the picture shows the drawing as in a mirror. */
  mirrored: boolean;
}

/** A view's drawing fills so much of a picture, as a rule. */
const usualShare = 0.85;
/** With nothing placed it may lie anywhere within this share of the picture's shorter side. */
const unknownShare = 0.22;
/** A body is not the drawing: so much of its size a landmark may be off, as the picture's own points tell or at least. */
const leastShare = 0.05;

/**
 * Where the next landmark of a view is likely to lie: the drawing laid over what has been placed so far, turned, sized and
 * mirrored as fits best; before that, where the view usually has it.
 *
 * @param placed landmarks by their keys, as they are seen
 * @param size of the picture as it is seen, in the same units
 * @param mirrored whether somebody says that it is seen as in a mirror; where enough is placed, that tells
 * @returns null for a landmark that the view does not have, or that lies beside the body
 */
export function likelyPlace(
  view: GuideView,
  placed: Readonly<Record<string, Point>>,
  wanted: string,
  size: Size,
  mirrored = false
): Likely | null {
  const landmark = view.landmarks.find(({ key }) => key === wanted);
  if (!landmark || landmark.beside) return null;
  // Drawings are as high as wide pictures are made to be: both sides of them are 1.
  const shorter = Math.min(size.width, size.height);
  const usual = (point: Point): Point => ({
    x: size.width * (0.5 + (mirrored ? -1 : 1) * usualShare * (point.x - 0.5)),
    y: size.height * (0.5 + usualShare * (point.y - 0.5))
  });
  const target = usual(landmark.onSchematic);
  const pairs = view.landmarks.flatMap(({ key, onSchematic, beside }) =>
    !beside && key !== wanted && placed[key] ? [{ from: usual(onSchematic), to: placed[key] }] : []
  );
  if (pairs.length === 0) return { at: target, radius: unknownShare * shorter, mirrored };
  if (pairs.length === 1) {
    const [{ from, to }] = pairs;
    const at = { x: target.x + to.x - from.x, y: target.y + to.y - from.y };
    return { at, radius: 0.8 * unknownShare * shorter, mirrored };
  }
  const mirror = ({ x, y }: Point): Point => ({ x: size.width - x, y });
  const tried = [(point: Point) => point, mirror].flatMap((through) => {
    const laid = laidOver(pairs.map(({ from, to }) => ({ from: through(from), to })));
    if (!laid) return [];
    const turned = Math.abs(laid.similarity.turn) / Math.PI;
    const off = (laid.residual ?? 0) / shorter;
    // Two points fit both ways: the one that need not be turned is meant.
    return [{ through, laid, cost: off + 0.2 * turned, mirrored: mirrored !== (through === mirror) }];
  });
  if (tried.length === 0) return { at: target, radius: unknownShare * shorter, mirrored };
  const [{ through, laid, mirrored: found }] = tried.toSorted((a, b) => a.cost - b.cost);
  const at = onto(laid.similarity, through(target));
  const reach = Math.max(...pairs.map(({ to }) => Math.hypot(to.x - at.x, to.y - at.y)));
  const radius = Math.max(leastShare * shorter, 1.5 * (laid.residual ?? 0.12 * reach));
  return { at, radius: Math.min(radius, unknownShare * shorter), mirrored: found };
}

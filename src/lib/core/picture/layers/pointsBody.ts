import { z } from 'zod';
import type { PlacedPoint } from '../../calibration/scale';
import type { Drawing } from '../drawing';
import { placedPointSchema } from '../placedPoint';
import { meanOf } from '../../measurement/geometry';
import { closed } from './drawnParts';

/** The body of a kind that is nothing but its points. */
export interface PointsBody {
  points: PlacedPoint[];
}

/** More points than anybody places, also along edges. */
const mostPoints = 2000;

/** @param least, most how many points; without `most` any number from `least` on */
export const pointsSchema = (least: number, most = mostPoints): z.ZodType<PointsBody> =>
  z.strictObject({ points: z.array(placedPointSchema).min(least).max(most) });

/** How such a body is moved and made. */
export const pointsPart = {
  pointsOf: ({ points }: PointsBody): PlacedPoint[] => [...points],
  withPoints: (_: PointsBody, points: PlacedPoint[]): PointsBody => ({ points }),
  made: (points: PlacedPoint[]): PointsBody => ({ points })
};

/** The same for an outline of points, whose last one joins the first. */
export const outlinePart = {
  ...pointsPart,
  followsEdges: true,
  pointNames: ['First point of the outline', 'Second point', 'Third point'],
  further: 'Next point of the outline',
  drawn: ({ points }: PointsBody): Drawing => ({ shapes: [closed(points)], wordsAt: meanOf(points) })
};

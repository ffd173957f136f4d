import type { Orientation } from '../../../raster/orientation';
import { tiltedOrientationSchema } from '../../../raster/orientationSchema';
import { layerKind } from '../layerKind';

/**
 * How a picture is turned for looking. A presentation state turns first and flips then; here it is the other way round,
 * so a mirrored picture turns the other way (PS3.3 C.10.6). It knows quarter turns alone: a tilt is not told there.
 */
export const orientationLayer = layerKind<'orientation', Orientation>({
  kind: 'orientation',
  words: 'Orientation',
  version: 2,
  many: false,
  schema: tiltedOrientationSchema,
  upcasters: { 1: (body) => body },
  presentation: ({ quarterTurns, mirrored }) => ({
    ImageRotation: ((mirrored ? 4 - quarterTurns : quarterTurns) % 4) * 90,
    ImageHorizontalFlip: mirrored ? 'Y' : 'N'
  })
});

import type { SeededRandom } from '../../random';
import type { Raster } from '../../raster/raster';
import type { Scene } from '../bones/kit';
import type { Vec3 } from '../space';
import { type KnownPoint, attenuationOf, knownPoints } from '../xray/radiograph';
import { type Imaging, type Transfer, anyImaging, imaged } from './imaging';

/** A simulated body seen through an imaging chain that is not the simulator's own, everything about it left to chance. */
export function bodyPicture(
  { bodies, view }: Pick<Scene, 'bodies' | 'view'>,
  transfer: Transfer,
  random: SeededRandom,
  fixed: Partial<Imaging> = {}
): { raster: Raster; known: Record<string, KnownPoint> } {
  const landmarks = Object.assign({}, ...bodies.map((body) => body.landmarks)) as Record<string, Vec3>;
  const map = attenuationOf(bodies, view);
  const imaging = anyImaging(transfer, random, fixed);
  return {
    raster: imaged(map, view.width, view.height, imaging, random),
    known: knownPoints(view, landmarks)
  };
}

import type { PictureShape } from '../core/picture/pictureView';
import { sizeOfLevel } from '../core/raster/pyramid';
import { type Raster, samplesFrom } from '../core/raster/raster';

/** A level of a frame from the server; null when nobody wants it any more. @throws Error in words */
export async function fetchedLevel(
  shape: PictureShape,
  frame: number,
  level: number,
  signal: AbortSignal
): Promise<Raster | null> {
  try {
    const answer = await fetch(`/api/pictures/${shape.pictureId}/levels/${level}?frame=${frame}`, { signal });
    if (!answer.ok) {
      const said = (await answer.json().catch(() => ({}))) as { sentence?: string };
      throw new Error(said.sentence ?? 'The picture could not be fetched.');
    }
    const bytes = new Uint8Array(await answer.arrayBuffer());
    return { ...shape, ...sizeOfLevel(shape, level), data: samplesFrom(bytes, shape.bitsStored) };
  } catch (error) {
    if (signal.aborted) return null;
    throw error instanceof TypeError
      ? new Error('The picture could not be fetched: Yonder Tray does not answer.')
      : error;
  }
}

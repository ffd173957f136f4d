import { numberWords } from '../writing';
import { layerKindOf } from '$core/picture/layers/all';
import type { PictureItem } from '$core/picture/pictureLayers';
import type { PictureView } from '$core/picture/pictureView';
import type { Greys } from '../../workers/painter';
import { thePainter } from '../stage/painting';
import { shapeOf } from '../stage/viewport.svelte';

/** What the grey values of something are: being read, read, or why they can't be. */
export type GreysState =
  { state: 'reading' } | { state: 'read'; greys: Greys } | { state: 'failed'; why: string };

const againAfterMs = 5000;

/** Grey values that readings ask for, read from the picture at full size; each place once. */
export class GreyValues {
  private readonly known = new Map<string, GreysState>();
  private told = $state(0);

  of(picture: PictureView, frame: number, { kind, body }: PictureItem): GreysState | null {
    const { placed, samples } = layerKindOf(kind);
    if (!placed || !samples) return null;
    const points = placed.pointsOf(body).map(({ x, y }) => ({ x, y }));
    const key = JSON.stringify([picture.pictureId, frame, samples, points]);
    void this.told;
    const known = this.known.get(key);
    if (known) return known;
    const reading: GreysState = { state: 'reading' };
    this.known.set(key, reading);
    void this.read(key, picture, frame, { kind: samples, points });
    return reading;
  }

  private async read(
    key: string,
    picture: PictureView,
    frame: number,
    wish: { kind: 'inside' | 'along'; points: { x: number; y: number }[] }
  ): Promise<void> {
    try {
      this.known.set(key, { state: 'read', greys: await thePainter().greys(shapeOf(picture), frame, wish) });
    } catch (error) {
      this.known.set(key, { state: 'failed', why: (error as Error).message });
      // Asked again while it is still wanted.
      setTimeout(() => {
        this.known.delete(key);
        this.told++;
      }, againAfterMs);
    }
    this.told++;
  }
}

/** In words, as short as a drawing bears: "mean 1204". */
export function greysInShort(state: GreysState | null): string {
  if (state?.state !== 'read') return '';
  const { greys } = state;
  if (greys.kind === 'along') return '';
  return greys.statistics ? `mean ${figure(greys.statistics.mean)}` : 'outside the picture';
}

/** A grey value: whole from a hundred on, else with a digit behind the point. */
export const figure = (value: number): string => numberWords(value, Math.abs(value) >= 100 ? 0 : 1);

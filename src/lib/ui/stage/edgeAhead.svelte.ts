import { type Remote, wrap } from 'comlink';
import type { PictureShape } from '$core/picture/pictureView';
import type { Point } from '$core/raster/orientation';
import type { EdgeGuide } from '../../workers/edgeGuide';
import EdgeGuideWorker from '../../workers/edgeGuide.worker?worker';
import { shapeOf } from './viewport.svelte';

let shared: Remote<EdgeGuide> | null = null;
const theGuide = () => (shared ??= wrap<EdgeGuide>(new EdgeGuideWorker()));

/** The edge from the point that was placed last to where the pointer is: shown while it is led, taken when it is placed. */
export class EdgeAhead {
  /** The points between the two. */
  points = $state.raw<Point[]>([]);
  /** Why it can't be followed. */
  message = $state('');
  private asking = false;
  private due: (() => void) | null = null;
  private asked = 0;

  forget(): void {
    this.drop();
    this.message = '';
  }

  private drop(): void {
    this.asked++;
    this.due = null;
    if (this.points.length > 0) this.points = [];
  }

  /** Shows the way soon; while one is worked out, only the newest place that is asked for waits. */
  show(picture: PictureShape, frame: number, from: Point, to: Point): void {
    const mine = ++this.asked;
    const ask = async () => {
      this.asking = true;
      const points = await this.ask(picture, frame, from, to, false);
      this.asking = false;
      if (mine === this.asked) this.points = points;
      const { due } = this;
      this.due = null;
      due?.();
    };
    if (this.asking) this.due = () => void ask();
    else void ask();
  }

  /** The way exactly; straight, with the reason said, where it can't be followed. */
  async exact(picture: PictureShape, frame: number, from: Point, to: Point): Promise<Point[]> {
    const points = await this.ask(picture, frame, from, to, true);
    this.drop();
    return points;
  }

  private async ask(
    picture: PictureShape,
    frame: number,
    from: Point,
    to: Point,
    exact: boolean
  ): Promise<Point[]> {
    const plain = ({ x, y }: Point) => ({ x, y });
    try {
      const way = await theGuide().way(shapeOf(picture), frame, plain(from), plain(to), exact);
      this.message = '';
      return way;
    } catch (error) {
      this.message = `The edge can’t be followed: ${(error as Error).message}`;
      return [];
    }
  }
}

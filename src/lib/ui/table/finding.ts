import { type Remote, wrap } from 'comlink';
import type { Finder } from '../../workers/finder';
import FinderWorker from '../../workers/finder.worker?worker';

/** One look through a picture at a time, away from the page, which can be stopped. */
export class Finding {
  private worker: Worker | null = null;

  get underWay(): boolean {
    return this.worker !== null;
  }

  /**
   * @param look what is asked of the finder; it is told whether its answers are still wanted
   * @returns what came of it; null where it was stopped meanwhile
   * @throws what the look throws, unless it was stopped
   */
  async run<T>(
    look: (finder: Remote<Finder>, isWanted: () => boolean) => Promise<T>
  ): Promise<{ found: T } | null> {
    const worker = (this.worker = new FinderWorker());
    const isWanted = () => this.worker === worker;
    try {
      const found = await look(wrap<Finder>(worker), isWanted);
      return isWanted() ? { found } : null;
    } catch (error) {
      if (isWanted()) throw error;
      return null;
    } finally {
      if (isWanted()) this.stop();
    }
  }

  stop(): void {
    this.worker?.terminate();
    this.worker = null;
  }
}

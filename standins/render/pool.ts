import { Tinypool } from 'tinypool';
import type { RenderJob, Rendered } from './jobs';

/** Threads that render simulated pictures, so that whoever waits for them can do something else meanwhile. */
export class RenderPool {
  private readonly pool: Tinypool;

  constructor(count: number) {
    this.pool = new Tinypool({
      filename: new URL('./thread.mjs', import.meta.url).href,
      runtime: 'worker_threads',
      minThreads: count,
      maxThreads: count
    });
  }

  render(job: RenderJob): Promise<Rendered> {
    return this.pool.run(job);
  }

  stop(): Promise<void> {
    return this.pool.destroy();
  }
}

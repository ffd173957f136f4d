import { Worker } from 'node:worker_threads';
import type { RenderJob, Rendered } from './jobs';

/** Threads that render simulated pictures, so that whoever waits for them can do something else meanwhile. */
export class RenderPool {
  private readonly threads: { worker: Worker; busy: number }[];
  private readonly waiting = new Map<
    number,
    { done: (result: Rendered) => void; failed: (error: Error) => void }
  >();
  private counter = 0;

  constructor(count: number) {
    this.threads = Array.from({ length: count }, () => this.startThread());
  }

  private startThread() {
    const worker = new Worker(new URL('./thread.mjs', import.meta.url), { execArgv: [] });
    const thread = { worker, busy: 0 };
    worker.on('message', ({ id, result }: { id: number; result: Rendered }) => {
      thread.busy -= 1;
      this.waiting.get(id)?.done(result);
      this.waiting.delete(id);
    });
    worker.on('error', (error) => {
      for (const each of this.waiting.values()) each.failed(error);
      this.waiting.clear();
    });
    return thread;
  }

  render(job: RenderJob): Promise<Rendered> {
    const id = ++this.counter;
    const [thread] = [...this.threads].sort((a, b) => a.busy - b.busy);
    thread.busy += 1;
    return new Promise((done, failed) => {
      this.waiting.set(id, { done, failed });
      thread.worker.postMessage({ id, job });
    });
  }

  async stop(): Promise<void> {
    await Promise.all(this.threads.map(({ worker }) => worker.terminate()));
  }
}

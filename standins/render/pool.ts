import { createHash, randomUUID } from 'node:crypto';
import fs from 'node:fs/promises';
import path from 'node:path';
import { deserialize, serialize } from 'node:v8';
import { Tinypool } from 'tinypool';
import type { RenderJob, Rendered } from './jobs';

/** Threads that render simulated pictures, so that whoever waits for them can do something else meanwhile. */
export class RenderPool {
  private readonly pool: Tinypool;

  /** @param keptIn a folder where what was rendered once is kept for the next that asks for the same; none by itself */
  constructor(
    count: number,
    private readonly keptIn?: string
  ) {
    this.pool = new Tinypool({
      filename: new URL('./thread.mjs', import.meta.url).href,
      runtime: 'worker_threads',
      minThreads: count,
      maxThreads: count
    });
  }

  async render(job: RenderJob): Promise<Rendered> {
    if (!this.keptIn) return this.pool.run(job);
    const name = createHash('sha256').update(JSON.stringify(job)).digest('hex');
    const file = path.join(this.keptIn, name);
    const kept = await fs.readFile(file).catch(() => null);
    if (kept) return deserialize(kept) as Rendered;
    const made: Rendered = await this.pool.run(job);
    await fs.mkdir(this.keptIn, { recursive: true });
    // Whole or not at all: others may ask meanwhile.
    const part = `${file}.${randomUUID()}`;
    await fs.writeFile(part, serialize(made));
    await fs.rename(part, file);
    return made;
  }

  stop(): Promise<void> {
    return this.pool.destroy();
  }
}

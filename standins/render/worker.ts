// Renders simulated pictures on a thread of its own.
import { parentPort } from 'node:worker_threads';
import { type RenderJob, rendered } from './jobs';

parentPort!.on('message', ({ id, job }: { id: number; job: RenderJob }) => {
  const result = rendered(job);
  parentPort!.postMessage({ id, result }, [result.raster.data.buffer as ArrayBuffer]);
});

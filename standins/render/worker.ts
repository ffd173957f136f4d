// Renders simulated pictures on a thread of its own.
import { parentPort } from 'node:worker_threads';
import { mouth } from '../../src/lib/core/phantom/teeth/dentition';
import { faultyTake } from '../../src/lib/core/phantom/teeth/sensorFaults';
import type { RenderJob } from './pool';

parentPort!.on('message', ({ id, job }: { id: number; job: RenderJob }) => {
  const raster = faultyTake(mouth(job.mouth), job.slot, job.seed, job.fault);
  parentPort!.postMessage({ id, raster }, [raster.data.buffer as ArrayBuffer]);
});

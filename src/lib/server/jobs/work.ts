import { inClinic } from '../database/connection';
import { deliver } from '../dispatch/deliver';
import { prepareLevels } from '../pictures/rasters';
import { queues, startQueue } from './boss';

const pollSeconds = 0.5;

/** Starts taking jobs. Any number of processes may do so against one database. */
export async function startWorking(): Promise<void> {
  const boss = await startQueue();
  await boss.work<{ clinicId: string; deliveryId: string }>(
    queues.deliver,
    { pollingIntervalSeconds: pollSeconds, batchSize: 1 },
    async ([job]) => deliver(job.data.clinicId, job.data.deliveryId)
  );
  await boss.work<{ clinicId: string; pictureId: string }>(
    queues.levels,
    { pollingIntervalSeconds: pollSeconds, batchSize: 1 },
    async ([job]) => {
      await inClinic(job.data.clinicId, (tx) => prepareLevels(tx, job.data.pictureId));
    }
  );
}

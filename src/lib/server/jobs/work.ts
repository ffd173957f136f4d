import { deliver } from '../dispatch/deliver';
import { settlePicture } from '../pictures/settle';
import { queues, startQueue } from './boss';

const pollSeconds = 0.5;

/** Starts taking jobs. Any number of processes may do so against one database; none of them answers pages. */
export async function startWorking(): Promise<void> {
  const boss = await startQueue();
  await boss.work<{ clinicId: string; deliveryId: string }>(
    queues.deliver,
    { pollingIntervalSeconds: pollSeconds, batchSize: 1 },
    async ([job]) => deliver(job.data.clinicId, job.data.deliveryId)
  );
  await boss.work<{ clinicId: string; pictureId: string }>(
    queues.settle,
    { pollingIntervalSeconds: pollSeconds, batchSize: 1 },
    async ([job]) => settlePicture(job.data.clinicId, job.data.pictureId)
  );
}

import { deliver } from '../dispatch/deliver';
import { log, loggedError } from '../log';
import { settlePicture } from '../pictures/settle';
import { adviseOutside } from '../work/processes';
import { queues, startQueue } from './boss';

const pollSeconds = 0.5;

/** The queue keeps what a job failed with: where and of what kind, and no values. */
async function told(work: Promise<void>): Promise<void> {
  try {
    await work;
  } catch (error) {
    log.error({ err: error }, 'a job failed');
    // eslint-disable-next-line preserve-caught-error -- the cause holds what must not be kept
    throw new Error(JSON.stringify(loggedError(error)));
  }
}

/** Starts taking jobs. Any number of processes may do so against one database; none of them answers pages. */
export async function startWorking(): Promise<void> {
  const boss = await startQueue();
  await boss.work<{ clinicId: string; deliveryId: string }>(
    queues.deliver,
    { pollingIntervalSeconds: pollSeconds, batchSize: 1 },
    ([job]) => told(deliver(job.data.clinicId, job.data.deliveryId))
  );
  await boss.work<{ clinicId: string; pictureId: string }>(
    queues.advise,
    { pollingIntervalSeconds: pollSeconds, batchSize: 1 },
    ([job]) => told(adviseOutside(job.data))
  );
  await boss.work<{ clinicId: string; pictureId: string }>(
    queues.settle,
    { pollingIntervalSeconds: pollSeconds, batchSize: 1 },
    ([job]) => told(settlePicture(job.data.clinicId, job.data.pictureId))
  );
}

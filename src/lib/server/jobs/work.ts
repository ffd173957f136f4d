import { deliver } from '../dispatch/deliver';
import { packCase } from '../shelf/packCase';
import { type Telling, tellOfParcel } from '../dispatch/telling';
import { packParcel } from '../dispatch/packParcel';
import { log, loggedError } from '../log';
import type { News } from '../news/announce';
import { follow } from '../news/listen';
import { fileAllByRule } from '../pictures/categories';
import { settlePicture } from '../pictures/settle';
import { adviseOutside } from '../work/processes';
import { queues, startQueue } from './boss';

const pollSeconds = 0.5;
/** An archive that does not answer keeps none of the others waiting. */
const deliveriesAtOnce = 3;

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

/**
 * Starts taking jobs. Any number of processes may do so against one database; none of them answers pages. Jobs are
 * asked for now and then, and at once when there is news of what they are for. Gives back how to hear no more of it.
 */
export async function startWorking(): Promise<() => void> {
  const boss = await startQueue();
  const often = { pollingIntervalSeconds: pollSeconds, batchSize: 1 };
  type OfPicture = { clinicId: string; pictureId: string };
  const deliveries: string[] = [];
  for (let i = 0; i < deliveriesAtOnce; i++)
    deliveries.push(
      await boss.work<{ clinicId: string; deliveryId: string }>(queues.deliver, often, ([job]) =>
        told(deliver(job.data.clinicId, job.data.deliveryId))
      )
    );
  const packings = await boss.work<{ clinicId: string; parcelId: string }>(queues.pack, often, ([job]) =>
    told(packParcel(job.data.clinicId, job.data.parcelId))
  );
  await boss.work<OfPicture>(queues.advise, often, ([job]) => told(adviseOutside(job.data)));
  await boss.work<OfPicture>(queues.settle, often, ([job]) =>
    told(settlePicture(job.data.clinicId, job.data.pictureId))
  );
  await boss.work<{ clinicId: string; categoryId: string }>(queues.file, often, ([job]) =>
    told(fileAllByRule(job.data.clinicId, job.data.categoryId))
  );
  await boss.work<Telling>(queues.tell, often, ([job]) => told(tellOfParcel(job.data)));
  const shelving = await boss.work<{ clinicId: string; caseId: string }>(queues.shelve, often, ([job]) =>
    told(packCase(job.data.clinicId, job.data.caseId))
  );
  const wakenBy: Partial<Record<News['topic'], string[]>> = {
    deliveries,
    dispatch: [packings],
    shelf: [shelving]
  };
  return follow((news) => {
    if (news === 'missed-some') return;
    for (const worker of wakenBy[news.topic] ?? []) boss.notifyWorker(worker);
  });
}

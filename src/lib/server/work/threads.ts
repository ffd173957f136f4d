import { Tinypool } from 'tinypool';
import type { Digest, DigestWish } from '../blobs/digest';
import type { LevelBytes } from '../pictures/levelBytes';
import { poolFile } from './poolFile';
import type { Surveyed } from '../../core/arrivals/survey';
import type { CoarseWish, SurveyWish } from './threadTasks';

/** As many as devices that usually expose at one moment, and one more. All stay, so that none has to be started then. */
const count = 4;

let pool: Tinypool | null = null;

function threads(): Tinypool {
  pool ??= new Tinypool({
    filename: poolFile('thread'),
    runtime: 'worker_threads',
    minThreads: count,
    maxThreads: count
  });
  return pool;
}

/** Reads a file that is still being written to its end: its digest, and the look its samples open with. */
export const digestInThread = (wish: DigestWish): Promise<Digest> => threads().run(wish, { name: 'digest' });

export const coarseInThread = (wish: CoarseWish): Promise<LevelBytes[]> =>
  threads().run(wish, { name: 'coarse' });

/** Few files in one piece: an exposure may wait for the thread. */
export const surveyInThread = (wish: SurveyWish): Promise<Surveyed[]> =>
  threads().run(wish, { name: 'survey' });

/** Starts the threads ahead of time, so that the first exposure does not wait for them. */
export function startThreads(): void {
  threads();
}

export async function stopThreads(): Promise<void> {
  const stopping = pool;
  pool = null;
  await stopping?.destroy().catch(() => {});
}

// The worker: a process of its own that takes jobs, so that none of them keeps a page or a device waiting.
import os from 'node:os';
import { endOnFaults } from '../log';
import { closeDatabase } from '../database/connection';
import { stopQueue } from '../jobs/boss';
import { startUpkeep, upkeep } from '../jobs/upkeep';
import { startWorking } from '../jobs/work';
import { stopListening } from '../news/listen';
import { watchPractice } from '../practice/watching';
import { startPictureProcesses, stopProcesses, warmPictureProcesses } from './processes';

endOnFaults();
// Pages and devices go first; but what a take looks like is waited for at the chair, too.
const niceness = 4;
os.setPriority(0, niceness);
process.env.YONDER_NICE = String(niceness);
// A machine with little to spare may leave out what only makes the first look of a day as fast as the next.
if (process.env.YONDER_COLD) startPictureProcesses();
else warmPictureProcesses();
const stopFollowing = await startWorking();
const stopUpkeep = startUpkeep();
const stopPractice = watchPractice();
await upkeep().catch(() => {});
process.send?.({ ready: true });

async function stop(): Promise<void> {
  stopFollowing();
  await stopListening();
  stopUpkeep();
  stopPractice();
  await stopQueue();
  await stopProcesses();
  await closeDatabase();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());

import { beforeClinic, inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { Problem } from '../problem';
import { lampNews } from './arming';

/** A device that has not been heard of for this long is absent, whatever it said last. */
const silentSeconds = 12;
const lookEveryMs = 2_500;

/** Marks devices that fell silent, and tells the pages of their rooms. Any number of processes may do so. */
export async function markSilent(): Promise<void> {
  const rows = await beforeClinic<{ device_id: string; clinic_id: string }>(
    'select * from silent_devices($1)',
    silentSeconds
  );
  for (const row of rows)
    await inClinic(row.clinic_id, async (tx) => announce(tx, ...(await lampNews(tx, [row.device_id]))));
}

/** Looks again and again; gives back how to stop. While the records are away nothing is marked. */
export function watchSilence(): () => void {
  const timer = setInterval(() => {
    void markSilent().catch((error: unknown) => {
      if (!(error instanceof Problem)) throw error;
    });
  }, lookEveryMs);
  timer.unref();
  return () => clearInterval(timer);
}

import { clinicIds } from '../jobs/upkeep';
import { log } from '../log';
import { readPractice } from './feed';
import { tellPractice } from './telling';

const everyMs = () => Number(process.env.YONDER_PRACTICE_SECONDS ?? 20) * 1000;

/** Asks every clinic's practice system, again and again, and tells it what it has to hear. Gives back how to stop. */
export function watchPractice(): () => void {
  let stopped = false;
  let timer: NodeJS.Timeout;
  const round = async () => {
    try {
      for (const clinicId of await clinicIds()) {
        if (stopped) break;
        await readPractice(clinicId);
        await tellPractice(clinicId);
      }
    } catch (error) {
      // The records are away; they are asked again in the next round.
      log.warn({ err: error }, 'practice systems were not read');
    }
    if (!stopped) timer = setTimeout(() => void round(), everyMs());
  };
  void round();
  return () => {
    stopped = true;
    clearTimeout(timer);
  };
}

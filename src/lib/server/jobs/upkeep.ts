import { forgetPutAway } from '../arrivals/forgetting';
import { breakOffStill } from '../arrivals/intakes';
import { anchorHead } from '../audit/anchor';
import { moveStragglers } from '../blobs/keep';
import { sweepComing, sweepLanding } from '../blobs/sweep';
import { seedClinic } from '../clinics/newClinic';
import { forgetTold } from '../arrivals/toldBeside';
import { takeUpAgain } from '../dispatch/queueing';
import { beforeClinic, inClinic } from '../database/connection';
import { Problem } from '../problem';
import { emptyBins } from '../pictures/bin';
import { noteAllTold } from '../pictures/told';
import { forgetCases } from '../shelf/cases';
import { noteStandings } from '../trays/trays';

const everyMs = 60_000;
/** By then an original's own job has had its turns. */
const stragglerSeconds = 10 * 60;
/** Pages ask again for days; nobody asks with a key for longer. */
const keptActDays = 90;

export const clinicIds = async (): Promise<string[]> =>
  (await beforeClinic<{ clinic_id: string }>('select * from clinic_ids()')).map((row) => row.clinic_id);

/** Brings every clinic up to what this program ships and notes, after its tables were brought up to date. */
export async function bringUp(): Promise<void> {
  for (const clinicId of await clinicIds())
    await inClinic(clinicId, async (tx) => {
      await seedClinic(tx);
      await noteStandings(tx);
      await noteAllTold(tx);
    });
}

/** What has to be looked after now and then: files nobody refers to, originals whose job was lost, old keys. */
export async function upkeep(): Promise<void> {
  await sweepComing();
  for (const clinicId of await clinicIds()) {
    await moveStragglers(clinicId, stragglerSeconds);
    await sweepLanding(clinicId);
    await anchorHead(clinicId);
    await forgetPutAway(clinicId);
    await emptyBins(clinicId);
    await forgetCases(clinicId);
    await breakOffStill(clinicId);
    await takeUpAgain(clinicId);
    await forgetTold(clinicId);
    await inClinic(clinicId, (tx) =>
      tx.sql(`delete from done_act where at < now() - make_interval(days => $1)`, keptActDays)
    );
  }
}

/** Does so again and again; gives back how to stop. */
export function startUpkeep(): () => void {
  const timer = setInterval(() => {
    void upkeep().catch((error: unknown) => {
      if (!(error instanceof Problem)) throw error;
    });
  }, everyMs);
  timer.unref();
  return () => clearInterval(timer);
}

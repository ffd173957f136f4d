// Tables up to date, then the demo clinic. Run by the launcher before the server starts.
import { buildDemo } from '../demo/build';
import { closeDatabase } from '../src/lib/server/database/connection';
import { migrate } from '../src/lib/server/database/migrate';
import { bringUp } from '../src/lib/server/jobs/upkeep';

const { OWNER_DATABASE_URL, ARCHIVE_URL, PRACTICE_URL, CLAIMS_URL, FILM_PORT, ENROLMENT_CODE } = process.env;
if (!OWNER_DATABASE_URL || !ARCHIVE_URL || !ENROLMENT_CODE)
  throw new Error('started without its environment');

async function main(): Promise<void> {
  await migrate(OWNER_DATABASE_URL!);
  await bringUp();
  await closeDatabase();
  await buildDemo(OWNER_DATABASE_URL!, {
    archiveUrl: ARCHIVE_URL!,
    practiceUrl: PRACTICE_URL,
    claimsUrl: CLAIMS_URL,
    filmPort: FILM_PORT ? Number(FILM_PORT) : undefined,
    enrolmentCode: ENROLMENT_CODE!,
    discs: process.env.YONDER_DISCS,
    now: new Date(),
    say: (words) => console.log(`  ${words}`)
  });
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});

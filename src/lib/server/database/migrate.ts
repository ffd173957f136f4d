import { type QueryInterface, Sequelize, type Transaction } from 'sequelize';
import { Umzug } from 'umzug';
import { up as clinic } from './migrations/0001-clinic';
import { keysAndRoles } from './migrations/0002-keys-and-roles';
import { patternsAndEvents } from './migrations/0003-patterns-and-events';
import { picturesOfEveryKind } from './migrations/0004-pictures';
import { blobsAndActs } from './migrations/0005-blobs';
import { exposures } from './migrations/0006-exposures';
import { safety } from './migrations/0007-safety';
import { chair } from './migrations/0008-chair';
import { people } from './migrations/0009-people';
import { arrivalsAndPhones } from './migrations/0010-arrivals';
import { checking } from './migrations/0011-checking';
import { practiceSystem } from './migrations/0012-practice';
import { visitStory } from './migrations/0013-story';
import { joinedCharts } from './migrations/0014-joined-charts';
import { practiceTold } from './migrations/0015-practice-told';
import { papers } from './migrations/0016-papers';
import { usualDoses } from './migrations/0017-usual-dose';
import { markerShapes } from './migrations/0018-marker-shape';
import { ownLooks } from './migrations/0019-own-looks';
import { looksToOpenWith } from './migrations/0020-opening-looks';
import { longMarkers } from './migrations/0021-long-markers';
import { plumbLines } from './migrations/0022-plumb-lines';
import { writtenGuides } from './migrations/0023-written-guides';
import { arrivalBundles } from './migrations/0024-bundles';
import { binAndCategories } from './migrations/0025-bin';
import { leaving } from './migrations/0026-leaving';
import { claimsOffice } from './migrations/0027-claims';
import { shelfOfCases } from './migrations/0028-shelf';
import { toldProblems } from './migrations/0029-told';
import { saidOfPictures } from './migrations/0030-said';
import { foundByGrade } from './migrations/0031-grades';
import { archivesCommit } from './migrations/0032-commitment';
import { visitReports } from './migrations/0033-reports';
import { printersMeasured } from './migrations/0034-printers';
import { papersSent } from './migrations/0035-papers-sent';
import { letters } from './migrations/0036-letters';
import { settingsTakenBack } from './migrations/0037-settings';
import { staffInvited } from './migrations/0038-staff';
import { filmsPrinted } from './migrations/0039-film';
import { roomsClosed } from './migrations/0040-rooms';
import { categoriesNoted } from './migrations/0041-categories';
import { printLayouts } from './migrations/0042-layouts';
import { roomNames } from './migrations/0043-room-names';
import { languageOfDates } from './migrations/0044-language';
import { putAwayKept } from './migrations/0045-put-away';
import { practiceSetUp } from './migrations/0046-practice-set-up';
import { droppedCases } from './migrations/0047-dropped-cases';
import { nextStep } from './migrations/0048-next-step';
import { survey } from './migrations/0049-survey';
import { keptPlans } from './migrations/0050-kept-plans';
import type { Migration } from './migrations/migration';

export const migrations: readonly Migration[] = [
  { name: '0001-clinic', up: clinic },
  keysAndRoles,
  patternsAndEvents,
  picturesOfEveryKind,
  blobsAndActs,
  exposures,
  safety,
  chair,
  people,
  arrivalsAndPhones,
  checking,
  practiceSystem,
  visitStory,
  joinedCharts,
  practiceTold,
  papers,
  usualDoses,
  markerShapes,
  ownLooks,
  looksToOpenWith,
  longMarkers,
  plumbLines,
  writtenGuides,
  arrivalBundles,
  binAndCategories,
  leaving,
  claimsOffice,
  shelfOfCases,
  toldProblems,
  saidOfPictures,
  foundByGrade,
  archivesCommit,
  visitReports,
  printersMeasured,
  papersSent,
  letters,
  settingsTakenBack,
  staffInvited,
  filmsPrinted,
  roomsClosed,
  categoriesNoted,
  printLayouts,
  roomNames,
  languageOfDates,
  putAwayKept,
  practiceSetUp,
  droppedCases,
  nextStep,
  survey,
  keptPlans
];

/** Any number: nobody else locks it. */
const migrationLock = 7_304_812;

/**
 * Brings the tables up to date, as their owner. Each migration runs once, in one transaction together with the line
 * that says so; two programs that start at the same moment wait for one another.
 * @param last the migration to stop after; all of them when it is not given
 */
export async function migrate(ownerUrl: string, last?: string): Promise<string[]> {
  const owner = new Sequelize(ownerUrl, { dialect: 'postgres', logging: false });
  try {
    return await owner.transaction(async (lock) => {
      await owner.query('select pg_advisory_xact_lock($1)', { bind: [migrationLock], transaction: lock });
      await owner.query(
        'create table if not exists schema_step (name text primary key, ran_at timestamptz default now())'
      );
      return runAll(owner, last);
    });
  } finally {
    await owner.close();
  }
}

async function runAll(owner: Sequelize, last: string | undefined): Promise<string[]> {
  const umzug = new Umzug<QueryInterface>({
    migrations: migrations.map((migration) => ({
      name: migration.name,
      up: () => owner.transaction((transaction) => runOne(owner, migration, transaction))
    })),
    context: owner.getQueryInterface(),
    storage: {
      executed: async () => {
        const [rows] = await owner.query('select name from schema_step order by name');
        return (rows as { name: string }[]).map((row) => row.name);
      },
      logMigration: async () => {
        // Written by the migration's own transaction.
      },
      unlogMigration: async () => {
        throw new Error('migrations go forwards only');
      }
    },
    logger: undefined
  });
  return (await umzug.up(last ? { to: last } : undefined)).map((step) => step.name);
}

async function runOne(owner: Sequelize, { name, up }: Migration, transaction: Transaction): Promise<void> {
  await up((sql) => owner.query(sql, { transaction }).then(() => undefined));
  await owner.query('insert into schema_step (name) values ($1)', { bind: [name], transaction });
}

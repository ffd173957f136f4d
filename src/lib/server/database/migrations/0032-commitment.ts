import type { Migration } from './migration';

/** What an archive says of keeping what was delivered to it. */
export const archivesCommit: Migration = {
  name: '0032-commitment',
  up: (run) =>
    run(
      `alter table delivery add commitment text not null default '' check (commitment in ('', 'asked', 'kept'))`
    )
};

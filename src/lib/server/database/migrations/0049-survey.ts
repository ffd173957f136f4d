import type { Migration } from './migration';

/** What the heads of a disc's files tell of, while it is being read; and the way to what lies in one of its bundles. */
export const survey: Migration = {
  name: '0049-survey',
  up: (run) =>
    run(`alter table intake add survey jsonb not null default '[]';
create index on arrival (intake_id, bundle_key) where intake_id is not null;`)
};

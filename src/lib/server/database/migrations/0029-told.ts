import type { Migration } from './migration';

/** Why somebody who is to be told of a parcel could not be told; empty once they are. */
export const toldProblems: Migration = {
  name: '0029-told',
  up: (run) => run(`alter table parcel add told_problem text not null default ''`)
};

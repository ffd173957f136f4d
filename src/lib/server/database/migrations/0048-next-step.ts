import type { Migration } from './migration';

/** What is to be done about a parcel that was stopped, also where it has no deliveries that say so. */
export const nextStep: Migration = {
  name: '0048-next-step',
  up: (run) => run(`alter table parcel add next_step text not null default ''`)
};

import type { Migration } from './migration';

/** What was seen of a take's dose, and of which device and view it is: kept ones say what is usual. */
const doseSeen = `
alter table picture_advice add dose_span real, add dose_view text;
create index on picture_advice (clinic_id, dose_view, at desc) where dose_span is not null;`;

export const usualDoses: Migration = {
  name: '0017-usual-dose',
  up: async (run) => {
    await run(doseSeen);
  }
};

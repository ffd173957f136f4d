import type { Migration } from './migration';

/** What was brought in before is found by its bytes and by its own number. */
const known = `
create index picture_original on picture (clinic_id, original_sha256);
create index picture_instance on picture (clinic_id, (facts->>'instanceUid')) where facts->>'instanceUid' is not null;
grant update (number) on picture to yonder_app;`;

export const safety: Migration = {
  name: '0007-safety',
  up: async (run) => {
    await run(known);
  }
};

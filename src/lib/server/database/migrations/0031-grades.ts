import type { Migration } from './migration';

/** Pictures of all charts are found by their grade, newest first. */
export const foundByGrade: Migration = {
  name: '0031-grades',
  up: (run) =>
    run(
      `create index picture_by_grade on picture (clinic_id, (told->>'grade'), taken_at desc, picture_id desc)
       where told->>'grade' is not null and away is null`
    )
};

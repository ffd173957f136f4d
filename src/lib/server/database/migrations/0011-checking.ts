import { fenced } from './fence';
import type { Migration } from './migration';

/** When a picture was taken can be put right; what its file or device said stays known. */
const taken = `
alter table picture add first_taken_at timestamptz;
grant update (taken_at, first_taken_at, visit_id, patient_id) on picture to yonder_app;`;

/** Pictures that were filed to a wrong patient or visit and moved: both charts show that it happened. */
const moves = `
create table picture_move (
  clinic_id uuid not null references clinic,
  picture_id uuid not null,
  from_patient uuid not null,
  from_visit uuid not null,
  to_patient uuid not null,
  to_visit uuid not null,
  moved_by uuid not null,
  at timestamptz not null default now(),
  reason text not null,
  primary key (clinic_id, picture_id, at),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id),
  foreign key (clinic_id, from_patient) references patient (clinic_id, patient_id),
  foreign key (clinic_id, to_patient) references patient (clinic_id, patient_id),
  foreign key (clinic_id, from_visit) references visit (clinic_id, visit_id),
  foreign key (clinic_id, to_visit) references visit (clinic_id, visit_id),
  foreign key (clinic_id, moved_by) references user_account (clinic_id, user_id)
);
create index on picture_move (clinic_id, from_patient);
create index on picture_move (clinic_id, to_patient);
${fenced('picture_move', ['select', 'insert'])}
grant delete on standing to yonder_app;`;

export const checking: Migration = {
  name: '0011-checking',
  up: async (run) => {
    await run(taken);
    await run(moves);
  }
};

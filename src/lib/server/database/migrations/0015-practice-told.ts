import { fenced } from './fence';
import type { Migration } from './migration';

/** Which visits' pictures the practice system was told of, or has to be told of. */
const told = `
alter table delivery add sent jsonb;
create table practice_told (
  clinic_id uuid not null references clinic,
  visit_id uuid not null,
  due boolean not null default true,
  since timestamptz not null default clock_timestamp(),
  told_at timestamptz,
  instances int not null default 0,
  problem text not null default '',
  primary key (clinic_id, visit_id),
  foreign key (clinic_id, visit_id) references visit (clinic_id, visit_id)
);
create index on practice_told (clinic_id) where due;
${fenced('practice_told', ['select', 'insert', 'update'])}`;

export const practiceTold: Migration = {
  name: '0015-practice-told',
  up: async (run) => {
    await run(told);
  }
};

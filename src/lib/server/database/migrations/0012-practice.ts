import { fenced, forDefiner } from './fence';
import type { Migration } from './migration';

/** The practice system that keeps the appointments, when it was heard of last, and what was wrong. */
const practice = `
create table practice_system (
  clinic_id uuid primary key references clinic,
  name text not null,
  url text not null,
  heard_at timestamptz,
  problem text not null default '',
  unplaced int not null default 0
);
${fenced('practice_system', ['select', 'insert', 'update'])}
create table identifier (
  clinic_id uuid not null references clinic,
  issuer text not null,
  value text not null,
  patient_id uuid not null,
  primary key (clinic_id, issuer, value),
  foreign key (clinic_id, patient_id) references patient (clinic_id, patient_id)
);
create index on identifier (clinic_id, patient_id);
${fenced('identifier', ['select', 'insert'])}
alter table appointment add practice_id text;
create unique index appointment_practice on appointment (clinic_id, practice_id) where practice_id is not null;
${forDefiner('practice_system', ['select'])}`;

export const practiceSystem: Migration = {
  name: '0012-practice',
  up: async (run) => {
    await run(practice);
  }
};

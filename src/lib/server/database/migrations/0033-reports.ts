import { fenced } from './fence';
import type { Migration } from './migration';

/** How the report of a visit is put together, where somebody changed that. */
export const visitReports: Migration = {
  name: '0033-reports',
  up: (run) =>
    run(`
create table visit_report (
  clinic_id uuid not null references clinic,
  visit_id uuid not null,
  version int not null,
  body jsonb not null,
  changed_by uuid not null,
  changed_at timestamptz not null default now(),
  primary key (clinic_id, visit_id),
  foreign key (clinic_id, visit_id) references visit (clinic_id, visit_id),
  foreign key (clinic_id, changed_by) references user_account (clinic_id, user_id)
);
${fenced('visit_report', ['select', 'insert', 'update'])}`)
};

import { fenced } from './fence';
import type { Migration } from './migration';

/** Two charts that are one patient: what the one had lies in the other, and what was moved is known, to be parted again. */
const joined = `
alter table patient add joined_into uuid;
alter table patient add foreign key (clinic_id, joined_into) references patient (clinic_id, patient_id);
alter table patient add check (joined_into <> patient_id);
create index on patient (clinic_id, joined_into) where joined_into is not null;
create table chart_join (
  clinic_id uuid not null references clinic,
  join_id uuid primary key,
  kept uuid not null,
  gone uuid not null,
  reason text not null,
  visits uuid[] not null,
  appointments uuid[] not null,
  identifiers jsonb not null,
  alert_before text,
  alert_after text,
  joined_by uuid not null,
  joined_at timestamptz not null default now(),
  parted_by uuid,
  parted_at timestamptz,
  parted_reason text,
  foreign key (clinic_id, kept) references patient (clinic_id, patient_id),
  foreign key (clinic_id, gone) references patient (clinic_id, patient_id),
  foreign key (clinic_id, joined_by) references user_account (clinic_id, user_id),
  foreign key (clinic_id, parted_by) references user_account (clinic_id, user_id)
);
create index on chart_join (clinic_id, kept);
create unique index on chart_join (clinic_id, gone) where parted_at is null;
${fenced('chart_join', ['select', 'insert'])}
grant update (parted_by, parted_at, parted_reason) on chart_join to yonder_app;
grant update (joined_into, alert) on patient to yonder_app;
grant update (patient_id) on visit to yonder_app;
grant update (patient_id) on appointment to yonder_app;
grant update (patient_id) on identifier to yonder_app;`;

/**
 * A picture belongs to whom its visit belongs to, also one that is being stored while the charts are joined: it waits
 * for the visit, and takes the patient that the visit has then.
 */
const ofItsVisit = `
create function patient_of_visit() returns trigger language plpgsql as $body$
begin
  select v.patient_id into new.patient_id from visit v where v.visit_id = new.visit_id for key share;
  return new;
end $body$;
create trigger patient_of_visit before insert on picture for each row execute function patient_of_visit();`;

export const joinedCharts: Migration = {
  name: '0014-joined-charts',
  up: async (run) => {
    await run(joined);
    await run(ofItsVisit);
  }
};

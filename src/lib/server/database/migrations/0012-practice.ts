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

/** Lines that are written for the practice system's part. */
const writing = `
create or replace function write_audit(session bytea, device_token bytea, part text, act text, subject text, details jsonb, patient uuid)
returns void language plpgsql security definer set search_path = public as $body$
declare
  clinic uuid := current_setting('yonder.clinic_id')::uuid;
  its_user uuid;
  its_name text;
begin
  if session is not null then
    select u.user_id, u.display_name into its_user, its_name from user_session s join user_account u using (user_id)
      where s.token_hash = session and s.clinic_id = clinic and s.expires_at > now();
  elsif device_token is not null then
    select 'Device ' || d.name into its_name from device d where d.token_hash = device_token and d.clinic_id = clinic;
    if its_name is null then
      select p.user_id, u.display_name || ', by phone' into its_user, its_name from phone p join user_account u using (user_id)
        where p.token_hash = device_token and p.clinic_id = clinic and p.paired_until > now();
    end if;
  elsif part in ('dispatch', 'door', 'enrolment', 'demo', 'practice system') then
    its_name := 'Yonder Tray, ' || part;
  end if;
  if its_name is null then
    raise exception 'nobody of this clinic shows this' using errcode = '28000';
  end if;
  insert into audit_line (clinic_id, seq, at, who, user_id, act, subject, patient_id, details, form, previous_hash, hash)
    values (clinic, 0, now(), its_name, its_user, act, subject, patient, details, 2, '', '');
end $body$;`;

export const practiceSystem: Migration = {
  name: '0012-practice',
  up: async (run) => {
    await run(practice);
    await run(writing);
  }
};

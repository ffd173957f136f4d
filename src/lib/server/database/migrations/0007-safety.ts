import { fenced, forDefiner, ofDefiner } from './fence';
import type { Migration } from './migration';

/** What was brought in before is found by its bytes and by its own number. */
const known = `
create index picture_original on picture (clinic_id, original_sha256);
create index picture_instance on picture (clinic_id, (facts->>'instanceUid')) where facts->>'instanceUid' is not null;
grant update (number) on picture to yonder_app;`;

/**
 * Lines say which user and which patient. Those that were written before keep the hash they have, which does not cover
 * the two.
 */
const lines = `
alter table audit_line add column user_id uuid, add column patient_id uuid, add column form smallint not null default 1;
create index on audit_line (clinic_id, patient_id, seq) where patient_id is not null;
create or replace function audit_hash(line audit_line) returns bytea language sql immutable as $body$
  select sha256(line.previous_hash || convert_to(
    (case when line.form = 1
      then jsonb_build_array(line.clinic_id, line.seq, extract(epoch from line.at), line.who, line.act, line.subject, line.details)
      else jsonb_build_array(line.form, line.clinic_id, line.seq, extract(epoch from line.at), line.who, line.user_id, line.act,
        line.subject, line.patient_id, line.details)
    end)::text, 'UTF8'))
$body$;`;

/**
 * The one way in which lines are written: by whoever has shown a session or a device's token of this clinic, under the
 * name that the records have for it. Parts of the program can't be taken for people.
 */
const writing = `
create function write_audit(session bytea, device_token bytea, part text, act text, subject text, details jsonb, patient uuid)
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
  elsif part in ('dispatch', 'door', 'enrolment', 'demo') then
    its_name := 'Yonder Tray, ' || part;
  end if;
  if its_name is null then
    raise exception 'nobody of this clinic shows this' using errcode = '28000';
  end if;
  insert into audit_line (clinic_id, seq, at, who, user_id, act, subject, patient_id, details, form, previous_hash, hash)
    values (clinic, 0, now(), its_name, its_user, act, subject, patient, details, 2, '', '');
end $body$;
${forDefiner('audit_line', ['insert'])}
${ofDefiner('write_audit(bytea, bytea, text, text, text, jsonb, uuid)')}
revoke insert on audit_line from yonder_app;

create or replace function finish_exposure(p jsonb) returns void language plpgsql set search_path = public as $body$
begin
  update picture set first_look = p->'firstLook' where picture_id = (p->>'pictureId')::uuid;
  if jsonb_typeof(p->'beyond') = 'object' then
    update picture set bits_stored = (p->'beyond'->>'bitsStored')::int,
      facts = jsonb_set(facts, '{remarks}', p->'beyond'->'remarks') where picture_id = (p->>'pictureId')::uuid;
  end if;
  perform write_audit(null, decode(p->>'token', 'hex'), null, p->>'act', p->>'pictureId', p->'details',
    (p->>'patientId')::uuid);
  perform pg_notify(p->>'channel', n::text) from jsonb_array_elements(p->'news') n;
end $body$;`;

/** How far the chain was found whole when it was last looked through. */
const checked = `
create table audit_checked (
  clinic_id uuid primary key references clinic,
  seq bigint not null,
  hash bytea not null,
  at timestamptz not null default now()
);
${fenced('audit_checked')}`;

/** Devices come in with a code of their own, for one room, once; it may put one in another's place. */
const enrolments = `
create table enrolment (
  code_hash bytea primary key,
  clinic_id uuid not null references clinic,
  room_id uuid not null,
  device_id uuid,
  made_by uuid,
  expires_at timestamptz not null,
  used_at timestamptz,
  foreign key (clinic_id, room_id) references room (clinic_id, room_id),
  foreign key (clinic_id, device_id) references device (clinic_id, device_id),
  foreign key (clinic_id, made_by) references user_account (clinic_id, user_id)
);
${fenced('enrolment')}
drop function clinic_of_enrolment(bytea);
alter table clinic drop column enrolment_hash;
create function clinic_of_enrolment(code bytea) returns table (clinic_id uuid)
language sql stable security definer set search_path = public as $body$
  select clinic_id from enrolment where code_hash = code and used_at is null and expires_at > now()
$body$;
${forDefiner('enrolment', ['select'])}
${ofDefiner('clinic_of_enrolment(bytea)')}
grant update (bits_stored, facts) on picture to yonder_app;`;

/** Who has looked at a picture and said that no name stands in it. */
const lettering = `
create table lettering_checked (
  clinic_id uuid not null references clinic,
  picture_id uuid not null,
  looked_by uuid not null,
  at timestamptz not null default now(),
  primary key (clinic_id, picture_id),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id),
  foreign key (clinic_id, looked_by) references user_account (clinic_id, user_id)
);
${fenced('lettering_checked', ['select', 'insert'])}`;

/** Places from which somebody has signed in before: strangers elsewhere can't keep them out. */
const places = `
create table known_place (
  clinic_id uuid not null references clinic,
  user_id uuid not null,
  address_hash bytea not null,
  last_at timestamptz not null default now(),
  primary key (user_id, address_hash),
  foreign key (clinic_id, user_id) references user_account (clinic_id, user_id)
);
${fenced('known_place')}
create function is_known_place(wanted text, address bytea) returns boolean
language sql stable security definer set search_path = public as $body$
  select exists (select 1 from known_place k join user_account u using (user_id)
    where u.sign_in_name = wanted and k.address_hash = address and k.last_at > now() - interval '60 days')
$body$;
${forDefiner('known_place', ['select'])}
${ofDefiner('is_known_place(text, bytea)')}`;

export const safety: Migration = {
  name: '0007-safety',
  up: async (run) => {
    await run(known);
    await run(lines);
    await run(writing);
    await run(checked);
    await run(enrolments);
    await run(places);
    await run(lettering);
  }
};
